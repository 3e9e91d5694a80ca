/** The type under which the rack's kinds are dragged onto the page. */
export const DRAGGED_KIND = "application/x-hackle-kind";
