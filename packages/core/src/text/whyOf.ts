/** Why something failed, in words: whatever was thrown. */
export const whyOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
