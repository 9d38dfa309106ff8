/**
 * Stands for the summary of a document that can't be read, so that it is shown as such and not looked into again and
 * again.
 */
export const UNREADABLE = "unreadable";
