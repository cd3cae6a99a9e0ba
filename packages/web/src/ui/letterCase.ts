/** A clause as the beginning of a sentence. */
export const upperFirst = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** A sentence or title in the middle of one. */
export const lowerFirst = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
