/** What `-` is called among the arguments, since the parser of the command line drops a lone `-`. No argument can hold it. */
export const standardInput = '\0stdin';
