/** What a use case answers: a value, or a refusal with the HTTP status it has and more that a client may need. */
export type Answer<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly status: 400 | 404 | 409 | 410 | 413 | 422; readonly error: string; readonly details?: object };

export const answered = <T>(value: T): Answer<T> => ({ ok: true, value });
export const notFound = (error: string): Answer<never> => ({ ok: false, status: 404, error });
export const unprocessable = (error: string): Answer<never> => ({ ok: false, status: 422, error });

/** The sentence for a project id that nothing goes by. */
export const noSuchProject = (projectId: string): Answer<never> =>
  notFound(`There is no project ${projectId} here: it may have been saved in another data folder.`);
