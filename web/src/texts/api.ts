/** What is said when the server cannot be asked. */

/** In api/client.ts. */
export const client = {
  noConnectionToThe: "No connection to the server. What you typed is kept in this browser.",
  theServerAnsweredTry: (status: number) => `The server answered ${status}. Try again.`,
};
