/** Requests that cannot be done as asked, with the status that says why. */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

export const notFound = (what: string): RequestError => new RequestError(404, `There is no ${what}.`);
export const conflict = (message: string): RequestError => new RequestError(409, message);
