/** An answer that is not a success: what went wrong in a word, in a sentence, and where. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly more: { path?: string; [key: string]: unknown } = {},
  ) {
    super(message);
  }
}

export const notFound = (what: string, id: string) =>
  new ApiError(404, 'not-found', `there is no ${what} "${id}"`);
