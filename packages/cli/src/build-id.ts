/** Which build of the program this is: known once its modules are put into one, by `bundle.js`. */
export const buildId: string | undefined = undefined;
