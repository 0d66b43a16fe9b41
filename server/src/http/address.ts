import { BlockList, isIP } from 'node:net';
import type { Request } from 'express';

const NEARBY = new BlockList();
for (const [net, prefix] of [
  ['127.0.0.0', 8],
  ['10.0.0.0', 8],
  ['172.16.0.0', 12],
  ['192.168.0.0', 16],
  ['169.254.0.0', 16],
] as const)
  NEARBY.addSubnet(net, prefix, 'ipv4');
for (const [net, prefix] of [
  ['::1', 128],
  ['fc00::', 7],
  ['fe80::', 10],
] as const)
  NEARBY.addSubnet(net, prefix, 'ipv6');

/** Whether an address is of this machine or its own network. Source: RFC 1918, RFC 3927, RFC 4193, RFC 4291 */
export function isNearby(address: string): boolean {
  const plain = address.replace(/^::ffff:(?=\d+\.)/iu, '');
  const version = isIP(plain);
  return version !== 0 && NEARBY.check(plain, version === 4 ? 'ipv4' : 'ipv6');
}

/**
 * The address that tries are counted by.
 * Shape:  of version 6 the network alone, which one household or school has to itself
 * Source: RFC 6177, a site gets a /64 at least
 */
export function addressOf(request: Request): string {
  const address = (request.ip ?? '').replace(/^::ffff:(?=\d+\.)/iu, '');
  return isIP(address) === 6 ? address.split(':').slice(0, 4).join(':') : address;
}
