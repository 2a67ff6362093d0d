"use client";

import { z } from "zod";
import { addressPlan, type NetworkDevice } from "@/core/links/network/addressPlan";
import { changeMember } from "@/core/links/editLinks";
import { networkSchema, type Network } from "@/core/plan/linkSchema";
import { accessPointName } from "@/core/online/accessPointName";
import type { PlanLink, KitDevice } from "@/core/plan/resolvedPlan";
import { CheckField } from "@/ui/parts/form/CheckField";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { SelectField } from "@/ui/parts/form/SelectField";
import { TextField } from "@/ui/parts/form/TextField";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

/** An address, a network, or nothing. */
const orEmpty = (schema: z.ZodType<unknown>) =>
  z
    .string()
    .trim()
    .refine((text) => text === "" || schema.safeParse(text).success, WIRE_WORDS.anAddressIsFourNumbersWithDots);
const ADDRESS_FIELDS = [
  ["subnet", WIRE_WORDS.network, "192.168.7.0/24"],
  ["gateway", WIRE_WORDS.router, "192.168.7.1"],
  ["poolFrom", WIRE_WORDS.itGivesFrom, "192.168.7.100"],
  ["poolTo", WIRE_WORDS.itGivesUpTo, "192.168.7.199"],
] as const;
const EXAMPLE_SERIAL = "0000123456";

/** Who is in the customer's network, at which address, and what must get out for it. */
export function AddressTable({ wire }: { wire: WireDesk }) {
  const { plan, findings, setNetwork } = wire;
  const { network } = plan;
  const devices = addressPlan(plan);
  const about = findings.filter(
    ({ code }) => code.startsWith("address-") || code.startsWith("gateway-") || code === "own-network-overlaps",
  );
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <NetworkAsFound network={network} onChange={setNetwork} />
      {about.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      {devices.length === 0 ? (
        <p>{WIRE_WORDS.nothingIsInTheNetworkYetTake}</p>
      ) : (
        <div className="overflow-x-auto" role="region" aria-label={WIRE_WORDS.addressPlan} tabIndex={0}>
          <table className="stacked w-full text-left text-sm">
            <thead>
              <tr className="border-b-2 border-base-300">
                <th scope="col" className="pr-3">
                  {WIRE_WORDS.device}
                </th>
                <th scope="col" className="pr-3">
                  {WIRE_WORDS.fixedAddress}
                </th>
                <th scope="col" className="pr-3">
                  {WIRE_WORDS.ownAccessPoint}
                </th>
                <th scope="col">{WIRE_WORDS.mustGetOut}</th>
              </tr>
            </thead>
            <tbody>
              {devices.map(({ device, link, at, way, ipv4, proposed, outbound }) => (
                <AddressRow
                  key={`${link.id} ${at}`}
                  link={link}
                  at={at}
                  device={device}
                  way={way}
                  ipv4={ipv4}
                  proposed={proposed}
                  wire={wire}
                  outbound={outbound}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}

function AddressRow({
  link,
  at,
  device,
  way,
  ipv4,
  proposed,
  wire,
  outbound,
}: {
  link: PlanLink;
  at: number;
  device: KitDevice;
  way: NetworkDevice["way"];
  ipv4: string | undefined;
  proposed: string | undefined;
  wire: WireDesk;
  outbound: readonly { readonly port: number; readonly protocol: string; readonly why: string }[];
}) {
  const { edit } = wire;
  return (
    <tr className="border-b border-base-300 align-top">
      <th scope="row" className="py-2 pr-3">
        {device.name}
        <span className="quiet block font-normal">{WIRE_WORDS.by(way)}</span>
      </th>
      <td className="py-2 pr-3">
        <div className="w-56 max-w-full">
          <TextField
            label={WIRE_WORDS.addressOf(device.name)}
            value={ipv4 ?? ""}
            placeholder={proposed === undefined ? WIRE_WORDS.theRouterGivesIt : WIRE_WORDS.automaticOr(proposed)}
            schema={orEmpty(networkSchema.shape.gateway)}
            onValue={(text) =>
              edit(
                (before) => changeMember(before, link.id, at, { ipv4: text === "" ? undefined : text }),
                `${link.id} ipv4`,
              )
            }
          />
        </div>
      </td>
      <td data-column={WIRE_WORDS.ownAccessPoint} className="py-2 pr-3">
        <span>
          <AccessPointText device={device} />
        </span>
      </td>
      <td data-column={WIRE_WORDS.mustGetOut} className="py-2">
        <span>
          <OutboundPorts outbound={outbound} />
        </span>
      </td>
    </tr>
  );
}

function AccessPointText({ device }: { device: KitDevice }) {
  return device.kit.network?.accessPoint ? (
    <>
      <span className="reading">{accessPointName(device.kit.network.accessPoint.name, EXAMPLE_SERIAL)}</span>
      <span className="quiet block">
        {WIRE_WORDS.withSerialAt(EXAMPLE_SERIAL.slice(-6), device.kit.network.accessPoint.address)}
      </span>
    </>
  ) : (
    "—"
  );
}

function OutboundPorts({
  outbound,
}: {
  outbound: readonly { readonly port: number; readonly protocol: string; readonly why: string }[];
}) {
  return outbound.length === 0
    ? "—"
    : outbound.map(({ port, protocol, why }) => (
        <span key={`${port} ${protocol}`} className="block">
          <span className="reading">
            {port}/{protocol}
          </span>{" "}
          {why}
        </span>
      ));
}

function NetworkAsFound({ network, onChange }: { network: Network; onChange: WireDesk["setNetwork"] }) {
  const band = network.bandsGhz.length === 2 ? "both" : network.bandsGhz[0] === 5 ? "5" : "2.4";
  return (
    <fieldset className="panel flex flex-wrap items-end gap-3 p-3">
      <legend className="px-1 font-bold">{WIRE_WORDS.theCustomersNetworkAsFound}</legend>
      {ADDRESS_FIELDS.map(([field, label, example]) => (
        <div key={field} className="w-40">
          <TextField
            label={label}
            value={network[field] ?? ""}
            placeholder={example}
            schema={orEmpty(networkSchema.shape[field])}
            onValue={(text) => onChange({ [field]: text === "" ? undefined : text }, field)}
          />
        </div>
      ))}
      <div className="w-36">
        <SelectField
          label={WIRE_WORDS.wiFiBands}
          value={band}
          options={[
            { value: "both", label: "2.4 and 5 GHz" },
            { value: "2.4", label: "2.4 GHz" },
            { value: "5", label: "5 GHz" },
          ]}
          onValue={(value) =>
            onChange({ bandsGhz: value === "both" ? [2.4, 5] : value === "5" ? [5] : [2.4] }, "bands")
          }
        />
      </div>
      <div className="w-40">
        <SelectField
          label={WIRE_WORDS.security}
          value={network.security}
          options={[
            { value: "open", label: WIRE_WORDS.none },
            { value: "wpa2", label: WIRE_WORDS.wpa2 },
            { value: "wpa2-wpa3", label: WIRE_WORDS.wpa2AndWpa3 },
            { value: "wpa3", label: WIRE_WORDS.wpa3Only },
          ]}
          onValue={(value) => onChange({ security: networkSchema.shape.security.parse(value) }, "security")}
        />
      </div>
      {(
        [
          ["oneName", WIRE_WORDS.oneNameForBothBands],
          ["hiddenName", WIRE_WORDS.nameIsHidden],
          ["portal", WIRE_WORDS.signInPage],
        ] as const
      ).map(([key, label]) => (
        <CheckField key={key} checked={network[key]} onCheck={(isChecked) => onChange({ [key]: isChecked }, key)}>
          {label}
        </CheckField>
      ))}
    </fieldset>
  );
}
