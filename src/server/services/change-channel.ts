/** The channel of the database on which every saved revision is told. */
export const CHANGES = "wandel_changes";
