/** The advisory lock, in SQL, under which one at a time posts to a dataset of a company; its key is to be bound. */
export const POSTING_LOCK = "72002, hashtext(current_schema() || '/' || ?)";
