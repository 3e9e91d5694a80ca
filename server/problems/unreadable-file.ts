/** A file that cannot be read, with the sentence for the person who brought it. */
export class UnreadableFile extends Error {
  constructor(detail: string, options?: ErrorOptions) {
    super(detail, options);
    this.name = "UnreadableFile";
  }
}
