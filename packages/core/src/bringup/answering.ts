const CLOSING = /^(done$|error:|stopped:)/;

/** Whether a line ends the answer to what was sent: every answer of Lantern ends with one. */
export const closesAnswer = (line: string): boolean => CLOSING.test(line);

/** A board at work says so once a second: one that says nothing for so long, in s of its own clock, is not heard. */
export const SILENT_S = 10;
