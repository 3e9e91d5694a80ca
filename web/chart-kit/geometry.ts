/** A rectangle in pixels. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A point in pixels. */
export interface Place {
  readonly x: number;
  readonly y: number;
}
