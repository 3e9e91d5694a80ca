/** The name of the way to forecast a rate without its inputs. */
export const AS_ITSELF = "As the series that it is";
