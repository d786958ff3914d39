/** A name as part of a file name: small letters, figures and dashes; what has none of them is called otherwise. */
export const slug = (name: string, otherwise: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || otherwise;
