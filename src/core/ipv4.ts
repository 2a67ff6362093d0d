/** A network of addresses: its first and last, and how many bits are fixed. */
export interface Subnet {
  readonly first: number;
  readonly last: number;
  readonly bits: number;
}

const ADDRESS_BITS = 32;

/**
 * An address as one number; undefined for a text that is none.
 *
 * @example ipv4Number("192.168.7.20") // 3232237332
 */
export function ipv4Number(text: string): number | undefined {
  const parts = text.trim().split(".");
  if (parts.length !== 4 || parts.some((part) => !/^\d{1,3}$/.test(part) || Number(part) > 255)) return undefined;
  return parts.reduce((sum, part) => sum * 256 + Number(part), 0);
}

/** @example ipv4Text(3232237332) // "192.168.7.20" */
export function ipv4Text(address: number): string {
  return [24, 16, 8, 0].map((shift) => Math.floor(address / 2 ** shift) % 256).join(".");
}

/** Whether a text is an IPv4 address of four numbers. */
export function isIpv4(text: string): boolean {
  return ipv4Number(text) !== undefined;
}

/**
 * The network of "address/bits"; undefined for a text that is none. Its first address names it and its last reaches all
 * in it: neither is for a device.
 *
 * For example: `parsedSubnet("192.168.7.0/24")` gives from 192.168.7.0 to 192.168.7.255
 */
export function parsedSubnet(text: string): Subnet | undefined {
  const [address, length, ...rest] = text.trim().split("/");
  const number = ipv4Number(address ?? "");
  if (number === undefined || rest.length > 0 || length === undefined || !/^\d{1,2}$/.test(length)) return undefined;
  const bits = Number(length);
  if (bits < 8 || bits > 30) return undefined;
  const size = 2 ** (ADDRESS_BITS - bits);
  const first = Math.floor(number / size) * size;
  return { first, last: first + size - 1, bits };
}

/** Whether an address is in a network. */
export function isInside(address: number, subnet: Subnet): boolean {
  return address >= subnet.first && address <= subnet.last;
}

/** @example subnetText(parsedSubnet("192.168.7.9/24")) // "192.168.7.0/24" */
export function subnetText(subnet: Subnet): string {
  return `${ipv4Text(subnet.first)}/${subnet.bits}`;
}
