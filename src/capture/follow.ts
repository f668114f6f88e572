import { lookup } from 'node:dns/promises';
import { BlockList, isIP } from 'node:net';
import { SkevoError } from '../core/error.js';

/** Addresses that only this machine, or what runs it, answers: loopback, link-local and unspecified. */
const inward = new BlockList();
inward.addSubnet('0.0.0.0', 8, 'ipv4');
inward.addSubnet('127.0.0.0', 8, 'ipv4');
inward.addSubnet('169.254.0.0', 16, 'ipv4');
inward.addAddress('::', 'ipv6');
inward.addAddress('::1', 'ipv6');
inward.addSubnet('fe80::', 10, 'ipv6');

/** The addresses of the name of a host; none when it is not known. */
export type Resolve = (host: string) => Promise<readonly string[]>;

const resolveByDns: Resolve = async (host) => {
  try {
    return (await lookup(host, { all: true })).map(({ address }) => address);
  } catch {
    return []; // The request itself will say that the host is not known.
  }
};

/**
 * Where a link of an answer leads: a redirect, or the URL of the next page.
 * @param link as it stands in the answer
 * @param from the URL of the answer
 * @param named hosts, with or without a port, that a person allowed links to lead to
 * @param name what the answer is called in errors
 * @throws SkevoError for what is no URL, another scheme than http and https, and addresses of this machine that a
 *   server elsewhere links to
 */
export async function followed(
  link: string,
  from: string,
  named: readonly string[],
  name: string,
  resolve: Resolve = resolveByDns,
): Promise<URL> {
  if (!URL.canParse(link, from))
    throw new SkevoError(
      `${name} links to ${quoted(link)}, which is no URL`,
      'Tell the keepers of the server.',
    );
  const to = new URL(link, from);
  if (to.protocol !== 'http:' && to.protocol !== 'https:')
    throw new SkevoError(
      `${name} links to a ${to.protocol} URL, and only http and https are followed`,
      'Tell the keepers of the server.',
    );
  const origin = new URL(from);
  if (to.host === origin.host || named.some((each) => each === to.host || each === to.hostname)) return to;
  if ((await isInward(to, resolve)) && !(await isInward(origin, resolve)))
    throw new SkevoError(
      `${name} links to ${to.host}, an address of this machine`,
      `If that is meant, allow it with --host ${to.host}.`,
    );
  return to;
}

async function isInward(url: URL, resolve: Resolve): Promise<boolean> {
  const host = url.hostname.replace(/^\[|\]$/g, '').replace(/\.$/, '');
  if (/(^|\.)localhost$/i.test(host)) return true;
  const addresses = isIP(host) === 0 ? await resolve(host) : [host];
  return addresses.some((address) => {
    const mapped = /^::ffff:([0-9a-f]+):([0-9a-f]+)$/i.exec(address);
    if (mapped !== null) {
      const [high, low] = [parseInt(mapped[1]!, 16), parseInt(mapped[2]!, 16)];
      return inward.check([high >> 8, high & 255, low >> 8, low & 255].join('.'), 'ipv4');
    }
    return inward.check(
      address.replace(/^::ffff:/i, ''),
      address.includes(':') && !/^::ffff:\d+\./i.test(address) ? 'ipv6' : 'ipv4',
    );
  });
}

function quoted(link: string): string {
  return JSON.stringify(link.length > 80 ? `${link.slice(0, 80)}...` : link);
}
