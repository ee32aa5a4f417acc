/** What is taken for an address: the same as in the core's AddressSyntax, held to it by tests/vectors/values.json. */

// White_Space of Unicode, spelt out: what \s takes is not the same in every language.
const space = '\\t-\\r \\u0085\\u00a0\\u1680\\u2000-\\u200a\\u2028\\u2029\\u202f\\u205f\\u3000';
const email = new RegExp(`^[^@${space}]+@[^@${space}]+$`);
const webAddress = new RegExp(
  `^[hH][tT][tT][pP][sS]?://(?:[^/?#@${space}]*@)?` +
    `(?:\\[[0-9A-Fa-f:.]+\\]|[^/?#@:\\[\\]\\\\${space}]+)(?::([0-9]{1,5}))?(?:[/?#][^${space}]*)?$`,
);

/** One @ with something on either side and no white space; whether mail arrives only sending it tells (RFC 5321, 3.3). */
export const isEmail = (text: string) => email.test(text);

/**
 * http or https in either case (RFC 3986, 3.1), a host as a name or an address in brackets (3.2.2), perhaps a port up to 65535, and no
 * white space.
 */
export function isWebAddress(text: string): boolean {
  const found = webAddress.exec(text);
  return found !== null && Number(found[1] ?? 0) <= 65_535;
}
