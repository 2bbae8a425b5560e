/**
 * The path that the application stands under, as the server wrote it into the page;
 * begins and ends with a slash.
 */
export const BASE =
  typeof document !== 'undefined' && document.baseURI ? new URL(document.baseURI).pathname : '/';

/** @param path begins with a slash */
export const underBase = (path: string): string => `${BASE}${path.slice(1)}`;
