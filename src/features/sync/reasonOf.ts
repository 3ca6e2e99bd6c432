/** Why something that was asked of the server failed, in a sentence; what fails without a word didn't reach it. */
export const reasonOf = (error: unknown, otherwise = 'The server does not answer.'): string =>
  error instanceof Error && error.message !== '' ? error.message : otherwise;
