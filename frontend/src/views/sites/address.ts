/** What is typed where an address or a name is wanted. */

/** Typed like an address: a scheme, or a dot with something on both sides, and no blank. */
const ADDRESS = /^(https?:\/\/\S+|[^\s.]+(\.[^\s.]+)+\S*|localhost\S*)$/i;

export const isAddress = (text: string) => ADDRESS.test(text);

/** The host of an address, which names a site until somebody does. */
export const nameOfAddress = (address: string) =>
  address
    .replace(/^https?:\/\//i, "")
    .replace(/^www\./i, "")
    .replace(/[/?#].*$/, "");
