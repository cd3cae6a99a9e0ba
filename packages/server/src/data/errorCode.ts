/** The system's code of an error, such as ENOENT; undefined where it has none. */
export const errorCode = (error: unknown): string | undefined =>
  typeof error === 'object' && error !== null && 'code' in error && typeof error.code === 'string'
    ? error.code
    : undefined;
