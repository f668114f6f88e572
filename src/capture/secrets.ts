/** What stands where a secret was. */
export const hidden = '***';

/** Names of query values that are secrets whatever a project says. */
const always =
  /^(.*[-_.])?(token|key|apikey|secret|password|passwd|pwd|auth|signature|sig|code|session|credential)s?$/i;

/**
 * A URL as it may be written down: without a user name and password, and with `***` for secret query values.
 * @param names of query values that are secrets beside those that are called so
 */
export function withoutSecrets(address: string, names: readonly string[]): string {
  const url = new URL(address);
  url.username = '';
  url.password = '';
  for (const name of new Set(url.searchParams.keys())) {
    if (isSecret(name, names)) url.searchParams.set(name, hidden);
  }
  url.hash = '';
  return url.href.replaceAll(encodeURIComponent(hidden), hidden);
}

export function isSecret(name: string, names: readonly string[]): boolean {
  return always.test(name) || names.some((each) => each.toLowerCase() === name.toLowerCase());
}
