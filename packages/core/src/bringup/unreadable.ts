/** What no firmware sends; bytes that are heard at another speed than they were sent are full of it. */
const NO_LETTER = /[^\t\x20-\x7e]/;

/** Whether a line is noise: it came at another speed than it was heard, or from something that does not speak in letters. */
export const isUnreadable = (line: string): boolean => NO_LETTER.test(line);
