"use client";

import { changeLink } from "@/core/links/editLinks";
import { cellularSettings, powerLineSettings, radioSettings, wifiSettings } from "@/core/plan/linkSchema";
import { WALL_KINDS, WALL_LOSS_DB, type Walls } from "@/core/plan/walls";
import { CheckField } from "@/ui/parts/form/CheckField";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import type { PlanLink } from "@/core/plan/resolvedPlan";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

interface Props {
  readonly wire: WireDesk;
  readonly link: PlanLink;
}

/** What is asked of a link beyond its ports: band and walls, spreading factor, data plan, outlet. */
export function LinkSettings({ wire, link }: Props) {
  switch (link.kind) {
    case "wifi":
      return <WifiFields wire={wire} link={link} />;
    case "radio":
      return <RadioFields wire={wire} link={link} />;
    case "cellular":
      return <CellularFields wire={wire} link={link} />;
    case "power-line":
      return <PowerLineFields wire={wire} link={link} />;
    case "ethernet":
      return (
        <div className="mt-2 w-48">
          <SelectField
            label={WIRE_WORDS.coloursInThePlugs}
            value={link.colours ?? "T568B"}
            options={["T568A", "T568B"].map((value) => ({ value, label: value }))}
            onValue={(colours) =>
              wire.edit((links) => changeLink(links, link.id, { colours: colours === "T568A" ? "T568A" : "T568B" }))
            }
          />
        </div>
      );
    default:
      return null;
  }
}

function WifiFields({ wire, link }: Props) {
  const settings = wifiSettings(link);
  const set = (change: Partial<typeof settings>, field: string) =>
    wire.edit((links) => changeLink(links, link.id, { wifi: { ...settings, ...change } }), `${link.id} ${field}`);
  return (
    <fieldset className="mt-2 flex flex-wrap items-end gap-3">
      <legend className="sr-only">{WIRE_WORDS.wiFiAtTheSpot}</legend>
      <div className="w-32">
        <SelectField
          label={WIRE_WORDS.band}
          value={String(settings.bandGhz)}
          options={[
            { value: "2.4", label: "2.4 GHz" },
            { value: "5", label: "5 GHz" },
          ]}
          onValue={(band) => set({ bandGhz: band === "5" ? 5 : 2.4 }, "band")}
        />
      </div>
      <div className="w-40">
        <NumberField
          label={WIRE_WORDS.thePhoneShows}
          about={link.name}
          unit="dBm"
          least={-120}
          most={0}
          optional
          value={settings.seenDbm}
          onValue={(seenDbm) => set({ seenDbm }, "seen")}
        />
      </div>
      <WallFields
        walls={settings.walls}
        band={settings.bandGhz}
        about={link.name}
        onWalls={(walls) => set({ walls }, "walls")}
      />
    </fieldset>
  );
}

function RadioFields({ wire, link }: Props) {
  if (!link.ends.some(({ device }) => device?.kit.kind === "radio-pair")) return null;
  const settings = radioSettings(link);
  const kit = link.ends[0]?.device?.kit;
  const set = (change: Partial<typeof settings>, field: string) =>
    wire.edit((links) => changeLink(links, link.id, { radio: { ...settings, ...change } }), `${link.id} ${field}`);
  return (
    <fieldset className="mt-2 flex flex-wrap items-end gap-3">
      <legend className="sr-only">{WIRE_WORDS.radioPair}</legend>
      <div className="w-36">
        <NumberField
          label={WIRE_WORDS.spreadingFactor}
          about={link.name}
          whole
          least={6}
          most={12}
          value={settings.spreadingFactor ?? kit?.radio?.spreadingFactor ?? 7}
          onValue={(spreadingFactor) => set({ spreadingFactor }, "spreading")}
        />
      </div>
      <div className="w-36">
        <NumberField
          label={WIRE_WORDS.lossExponent}
          about={link.name}
          least={1.49}
          most={6}
          value={settings.exponent}
          hint={WIRE_WORDS.twoInTheOpenThreeInAHouse}
          onValue={(exponent) => exponent !== undefined && set({ exponent }, "exponent")}
        />
      </div>
      <div className="w-32">
        <NumberField
          label={WIRE_WORDS.wantedMargin}
          about={link.name}
          unit="dB"
          least={-0.1}
          most={60}
          value={settings.marginDb}
          onValue={(marginDb) => marginDb !== undefined && set({ marginDb: Math.max(0, marginDb) }, "margin")}
        />
      </div>
      <WallFields walls={settings.walls} band={0.868} about={link.name} onWalls={(walls) => set({ walls }, "walls")} />
    </fieldset>
  );
}

function WallFields({
  walls,
  band,
  about,
  onWalls,
}: {
  walls: Walls;
  band: 0.868 | 2.4 | 5;
  about: string;
  onWalls: (walls: Walls) => void;
}) {
  return WALL_KINDS.map((kind) => (
    <div key={kind} className="w-32">
      <NumberField
        label={WALL_LOSS_DB[kind].name.split(/,| or /)[0]!}
        about={WIRE_WORDS.between(kind, about)}
        whole
        least={0}
        most={20}
        value={walls[kind]}
        hint={WIRE_WORDS.dBEach(WALL_LOSS_DB[kind][band])}
        onValue={(count) => count !== undefined && onWalls({ ...walls, [kind]: count })}
      />
    </div>
  ));
}

function CellularFields({ wire, link }: Props) {
  const settings = cellularSettings(link);
  const set = (change: Partial<typeof settings>, field: string) =>
    wire.edit((links) => changeLink(links, link.id, { cellular: { ...settings, ...change } }), `${link.id} ${field}`);
  return (
    <fieldset className="mt-2 flex flex-wrap items-end gap-3">
      <legend className="sr-only">{WIRE_WORDS.cellular}</legend>
      <div className="w-36">
        <NumberField
          label={WIRE_WORDS.aReport}
          about={link.name}
          unit="bytes"
          whole
          least={1}
          most={1_000_000}
          value={settings.reportBytes}
          onValue={(reportBytes) => reportBytes !== undefined && set({ reportBytes }, "bytes")}
        />
      </div>
      <div className="w-36">
        <NumberField
          label={WIRE_WORDS.every}
          about={WIRE_WORDS.report(link.name)}
          unit="s"
          least={0.99}
          most={86_400}
          value={settings.intervalS}
          onValue={(intervalS) => intervalS !== undefined && set({ intervalS }, "interval")}
        />
      </div>
      <div className="w-36">
        <NumberField
          label={WIRE_WORDS.sIMsPlan}
          about={link.name}
          unit="MB a month"
          most={1e6}
          value={settings.planMb}
          onValue={(planMb) => planMb !== undefined && set({ planMb }, "plan")}
        />
      </div>
      <div className="w-36">
        <NumberField
          label={WIRE_WORDS.signalSeen}
          about={link.name}
          unit="dBm"
          least={-150}
          most={0}
          optional
          value={settings.signalDbm}
          onValue={(signalDbm) => set({ signalDbm }, "signal")}
        />
      </div>
    </fieldset>
  );
}

const OUTLET_QUESTIONS = [
  ["ownOutlet", WIRE_WORDS.anOutletOfItsOwn],
  ["throughStrip", WIRE_WORDS.throughAStripFilterOrBackupSupply],
  ["samePhase", WIRE_WORDS.onThePhaseOfTheUnits],
  ["noisyNeighbours", WIRE_WORDS.chargersDimmersOrPowerSupplies],
] as const;

function PowerLineFields({ wire, link }: Props) {
  const settings = powerLineSettings(link);
  const set = (change: Partial<typeof settings>, field: string) =>
    wire.edit((links) => changeLink(links, link.id, { powerLine: { ...settings, ...change } }), `${link.id} ${field}`);
  return (
    <fieldset className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-1">
      <legend className="sr-only">{WIRE_WORDS.outletOfTheGateway}</legend>
      {OUTLET_QUESTIONS.map(([key, question]) => (
        <CheckField key={key} checked={settings[key]} onCheck={(isChecked) => set({ [key]: isChecked }, key)}>
          {question}
        </CheckField>
      ))}
      <div className="w-36">
        <NumberField
          label={WIRE_WORDS.unitsHeard}
          about={link.name}
          whole
          least={0}
          most={1000}
          optional
          value={settings.unitsHeard}
          onValue={(unitsHeard) => set({ unitsHeard }, "heard")}
        />
      </div>
    </fieldset>
  );
}
