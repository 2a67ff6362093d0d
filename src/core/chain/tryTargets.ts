import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { seenDevices } from "@/core/chain/seenDevices";

/** A host and its port. */
export interface HostPort {
  readonly host: string;
  readonly port: number;
}

/** The network of a bench: as the site's, on this machine. */
export interface StandIn {
  readonly gateway: HostPort;
  readonly outside: { readonly url: string };
  readonly names: HostPort;
  readonly service: HostPort;
  readonly devices: readonly { readonly device: string; readonly url: string }[];
}

/** All that Gormit asks when it tries a device's way: what the plan names, and nothing else. */
export interface TryTargets {
  /** Ports of the gateway of which any answer tells that it is there. */
  readonly gateway: readonly HostPort[];
  /** The device's own page. */
  readonly page: string | undefined;
  /** As the device would have it where its page answers. */
  readonly address: string | undefined;
  readonly serviceName: string | undefined;
  readonly servicePorts: readonly number[];
  /** Where names are asked; the system's where left out. */
  readonly names: HostPort | undefined;
  /** A page outside by which a log-in page shows; the service's own where left out. */
  readonly outside: string | undefined;
  /** Of a bench: the service is there, under any name. */
  readonly serviceAt: HostPort | undefined;
}

const GATEWAY_PORTS = [80, 443, 53];
const WEB_PORT = 80;

/**
 * What is asked for a device: gateway and device as the plan names them, the service and ports of its kit; on a bench
 * all of it stands on this machine. Undefined where the plan has no such device.
 *
 * For example: a gateway 192.168.7.1 and a service on 443: ports 80, 443 and 53 of the gateway, 443 of the service.
 */
export function tryTargets(
  plan: ResolvedPlan,
  deviceId: string,
  bench: StandIn | undefined,
  addressOnBench: string | undefined,
): TryTargets | undefined {
  const seen = seenDevices(plan).find(({ device }) => device.id === deviceId);
  if (!seen) return undefined;
  const carrier = seen.through?.kit.kind === "dongle" ? seen.through : seen.device;
  const ports = (carrier.kit.network?.outbound ?? []).filter(({ protocol }) => protocol === "tcp");
  const own = plan.linkById.get(seen.link?.id ?? "")?.members.find(({ item }) => item === carrier.id)?.ipv4;
  const common = { serviceName: carrier.kit.online?.service, servicePorts: ports.map(({ port }) => port) };
  if (bench)
    return {
      ...common,
      gateway: [bench.gateway],
      page: bench.devices.find(({ device }) => device === deviceId)?.url,
      address: addressOnBench,
      names: bench.names,
      outside: bench.outside.url,
      serviceAt: bench.service,
      servicePorts: common.servicePorts.length > 0 ? common.servicePorts : [bench.service.port],
      serviceName: common.serviceName ?? "service.kits.example",
    };
  const { gateway } = plan.network;
  return {
    ...common,
    gateway: gateway === undefined ? [] : GATEWAY_PORTS.map((port) => ({ host: gateway, port })),
    page: own === undefined ? undefined : `http://${own}:${WEB_PORT}/`,
    address: own,
    names: undefined,
    outside: common.serviceName === undefined ? undefined : `http://${common.serviceName}:${WEB_PORT}/`,
    serviceAt: undefined,
  };
}
