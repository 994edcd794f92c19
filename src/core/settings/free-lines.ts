/** What stands in the mark of a line of the user's own. */
export const FREE_LINE_WORD = "line";
