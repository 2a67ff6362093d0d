"use client";

import { SlidersHorizontal } from "lucide-react";
import Papa from "papaparse";
import { useState } from "react";
import { usualAzimuthDeg } from "@/core/simulation/sun";
import type { DiversionRequest } from "@/core/simulation/diversionSchema";
import { ARCHETYPES, type Archetype } from "@/core/simulation/house";
import { seriesOfValues } from "@/core/simulation/seriesOfValues";
import type { DivertDesk } from "@/ui/divert/useDivert";
import { TextField } from "@/ui/parts/form/TextField";
import { divertSettingsSchema } from "@/core/plan/divertSettings";
import { NumberField } from "@/ui/parts/form/NumberField";
import { FileButton } from "@/ui/parts/form/FileButton";
import { SelectField } from "@/ui/parts/form/SelectField";
import { DIVERT_WORDS } from "@/ui/words/divertWords";

const SEASONS = [
  { value: "172", label: DIVERT_WORDS.midsummer },
  { value: "80", label: DIVERT_WORDS.spring },
  { value: "266", label: DIVERT_WORDS.autumn },
  { value: "355", label: DIVERT_WORDS.midwinter },
];
const STEPS_A_DAY = 1440;

/** Sun, house, battery, heater, vehicle and tariff: what the plan gives, and what is typed over it. */
export function DivertSettingsForm({ desk }: { desk: DivertDesk }) {
  const { dayRequest, set, own, setOwn } = desk;
  const [problem, setProblem] = useState<string | undefined>();
  const field = dayRequest.fields[0];
  const { battery, heater, vehicle } = dayRequest;
  const setField = (change: object, name: string) =>
    field && set({ fields: [{ ...field, ...change }, ...dayRequest.fields.slice(1)] }, name);
  const open = (text: string, fileName: string, what: "sunW" | "houseW") => {
    const { data } = Papa.parse<string[]>(text, { skipEmptyLines: true });
    const outcome = seriesOfValues(data, STEPS_A_DAY);
    setProblem(outcome.kind === "bad" ? `${fileName}: ${outcome.message}` : undefined);
    if (outcome.kind === "series") setOwn({ ...own, [what]: outcome.values });
  };
  return (
    <details className="panel p-3">
      <summary className="press flex cursor-pointer items-center gap-2 font-bold">
        <SlidersHorizontal size={18} aria-hidden />
        {DIVERT_WORDS.sunHouseAndWhoTakesTheSurplus}
        <span className="quiet text-sm font-normal">{DIVERT_WORDS.pressToChange}</span>
      </summary>
      <div className="mt-2 grid gap-3 sm:grid-cols-3 lg:grid-cols-6">
        <SunFields desk={desk} />
        {field && <RoofFields place={desk.divert.place} field={field} setField={setField} />}
        <HouseFields desk={desk} />
        {battery && <BatteryFields battery={battery} desk={desk} />}
        {heater && <HeaterFields heater={heater} desk={desk} />}
        {vehicle && <VehicleFields vehicle={vehicle} desk={desk} />}
        <TariffFields desk={desk} />
      </div>
      <OwnSeriesFields open={open} desk={desk} problem={problem} />
    </details>
  );
}

function SunFields({ desk }: { desk: DivertDesk }) {
  const { divert, set } = desk;
  return (
    <>
      <SelectField
        label={DIVERT_WORDS.timeOfYear}
        value={String(divert.firstDay)}
        options={
          SEASONS.some(({ value }) => value === String(divert.firstDay))
            ? SEASONS
            : [...SEASONS, { value: String(divert.firstDay), label: DIVERT_WORDS.day(divert.firstDay) }]
        }
        onValue={(day) => set({ firstDay: Number(day) })}
      />
      <PlaceFields desk={desk} />
      <SelectField
        label={DIVERT_WORDS.sky}
        value={String(divert.cloudiness)}
        options={[
          { value: "0", label: DIVERT_WORDS.clear },
          { value: "0.3", label: DIVERT_WORDS.fewClouds },
          { value: "0.6", label: DIVERT_WORDS.mixed },
          { value: "1", label: DIVERT_WORDS.cloudy },
        ]}
        onValue={(cloudiness) => set({ cloudiness: Number(cloudiness) })}
      />
      <NumberField
        label={DIVERT_WORDS.weatherNumber}
        whole
        least={0}
        most={2 ** 31}
        value={divert.seed}
        hint={DIVERT_WORDS.anotherGivesOtherClouds}
        onValue={(seed) => seed !== undefined && set({ seed }, "seed")}
      />
    </>
  );
}

function PlaceFields({ desk }: { desk: DivertDesk }) {
  const { divert, set } = desk;
  return (
    <>
      <NumberField
        label={DIVERT_WORDS.latitude}
        unit="°"
        least={-66.1}
        most={66}
        value={divert.place.latDeg}
        onValue={(latDeg) => latDeg !== undefined && set({ place: { ...divert.place, latDeg } }, "lat")}
      />
      <NumberField
        label={DIVERT_WORDS.longitude}
        unit="°"
        least={-180.1}
        most={180}
        value={divert.place.lonDeg}
        onValue={(lonDeg) => lonDeg !== undefined && set({ place: { ...divert.place, lonDeg } }, "lon")}
      />
      <NumberField
        label={DIVERT_WORDS.clockAheadOfUtc}
        unit="h"
        least={-12.1}
        most={14}
        value={divert.place.utcOffsetH}
        onValue={(utcOffsetH) => utcOffsetH !== undefined && set({ place: { ...divert.place, utcOffsetH } }, "utc")}
      />
    </>
  );
}

function RoofFields({
  place,
  field,
  setField,
}: {
  place: DiversionRequest["place"];
  field: DiversionRequest["fields"][number];
  setField: (change: object, name: string) => void | undefined;
}) {
  return (
    <>
      <NumberField
        label={DIVERT_WORDS.field}
        unit="kWp"
        most={100_000}
        value={Number(field.kwp.toPrecision(4))}
        onValue={(kwp) => kwp !== undefined && setField({ kwp }, "kwp")}
      />
      <NumberField
        label={DIVERT_WORDS.tilt}
        unit="°"
        least={-0.1}
        most={90}
        value={field.tiltDeg}
        onValue={(tiltDeg) => tiltDeg !== undefined && setField({ tiltDeg: Math.max(0, tiltDeg) }, "tilt")}
      />
      <NumberField
        label={DIVERT_WORDS.faces}
        unit={DIVERT_WORDS.degreesFromNorth}
        least={-0.1}
        most={360}
        value={field.azimuthDeg ?? usualAzimuthDeg(place)}
        hint={DIVERT_WORDS.toTheEquator(usualAzimuthDeg(place))}
        onValue={(azimuthDeg) =>
          azimuthDeg !== undefined && setField({ azimuthDeg: Math.max(0, azimuthDeg) }, "azimuth")
        }
      />
    </>
  );
}

function HouseFields({ desk }: { desk: DivertDesk }) {
  const { divert, set } = desk;
  return (
    <>
      <SelectField
        label={DIVERT_WORDS.houseTitle}
        value={divert.house.archetype}
        options={Object.entries(ARCHETYPES).map(([value, { name }]) => ({ value, label: name }))}
        onValue={(archetype) => set({ house: { ...divert.house, archetype: archetype as Archetype } })}
      />
      <NumberField
        label={DIVERT_WORDS.houseTitle}
        unit="kWh a year"
        least={-0.1}
        most={1e7}
        value={divert.house.kwhYear}
        onValue={(kwhYear) =>
          kwhYear !== undefined && set({ house: { ...divert.house, kwhYear: Math.max(0, kwhYear) } }, "kwh")
        }
      />
    </>
  );
}

function BatteryFields({ battery, desk }: { battery: NonNullable<DiversionRequest["battery"]>; desk: DivertDesk }) {
  const { set } = desk;
  return (
    <>
      <NumberField
        label={DIVERT_WORDS.batteryTitle}
        unit="kWh"
        most={100_000}
        value={battery.capacityKwh}
        onValue={(capacityKwh) =>
          capacityKwh !== undefined && set({ battery: { ...battery, capacityKwh } }, "capacity")
        }
      />
      <NumberField
        label={DIVERT_WORDS.batteryTitle}
        unit="W"
        most={1e7}
        value={battery.powerW}
        onValue={(powerW) => powerW !== undefined && set({ battery: { ...battery, powerW } }, "battery power")}
      />
    </>
  );
}

function HeaterFields({ heater, desk }: { heater: NonNullable<DiversionRequest["heater"]>; desk: DivertDesk }) {
  const { set, plan } = desk;
  const count = plan.site.nodes.filter(({ kind }) => kind === "diverter").length;
  return (
    <>
      <NumberField
        label={count > 1 ? DIVERT_WORDS.heatersTogether(count) : DIVERT_WORDS.heaterTitle}
        unit="W"
        most={100_000}
        value={heater.ratedW}
        onValue={(ratedW) => ratedW !== undefined && set({ heater: { ...heater, ratedW } }, "heater")}
      />
      <NumberField
        label={DIVERT_WORDS.tank}
        unit="l"
        most={20_000}
        value={heater.litres}
        onValue={(litres) => litres !== undefined && set({ heater: { ...heater, litres } }, "tank")}
      />
      <NumberField
        label={DIVERT_WORDS.thermostat}
        unit="°C"
        least={29.9}
        most={90}
        value={heater.thermostatC}
        onValue={(thermostatC) =>
          thermostatC !== undefined && set({ heater: { ...heater, thermostatC } }, "thermostat")
        }
      />
      <SelectField
        label={DIVERT_WORDS.element}
        value={String(heater.steps)}
        options={[
          { value: "0", label: DIVERT_WORDS.byPhaseAngle },
          { value: "1", label: DIVERT_WORDS.onAndOff },
          { value: "2", label: DIVERT_WORDS.twoSteps },
          { value: "3", label: DIVERT_WORDS.threeSteps },
        ]}
        onValue={(steps) => set({ heater: { ...heater, steps: Number(steps) } })}
      />
    </>
  );
}

function VehicleFields({ vehicle, desk }: { vehicle: NonNullable<DiversionRequest["vehicle"]>; desk: DivertDesk }) {
  const { set, plan } = desk;
  const count = plan.site.nodes.filter(({ kind }) => kind === "ev-charger").length;
  return (
    <>
      <NumberField
        label={count > 1 ? DIVERT_WORDS.vehiclesTogether(count) : DIVERT_WORDS.vehicleTitle}
        unit="km a day"
        least={-0.1}
        most={2000}
        value={vehicle.kmADay}
        onValue={(kmADay) =>
          kmADay !== undefined && set({ vehicle: { ...vehicle, kmADay: Math.max(0, kmADay) } }, "km")
        }
      />
      <NumberField
        label={DIVERT_WORDS.chargingKeeps}
        unit="%"
        least={30}
        most={100}
        value={vehicle.efficiencyPct}
        onValue={(efficiencyPct) =>
          efficiencyPct !== undefined && set({ vehicle: { ...vehicle, efficiencyPct } }, "charging")
        }
      />
      <NumberField
        label={DIVERT_WORDS.pluggedInFrom}
        unit="h"
        least={-0.1}
        most={24}
        value={vehicle.pluggedFromH}
        onValue={(hour) =>
          hour !== undefined && set({ vehicle: { ...vehicle, pluggedFromH: Math.max(0, hour) } }, "from")
        }
      />
      <NumberField
        label={DIVERT_WORDS.until}
        about={DIVERT_WORDS.pluggedIn}
        unit="h"
        least={-0.1}
        most={24}
        value={vehicle.pluggedToH}
        onValue={(hour) => hour !== undefined && set({ vehicle: { ...vehicle, pluggedToH: Math.max(0, hour) } }, "to")}
      />
    </>
  );
}

function TariffFields({ desk }: { desk: DivertDesk }) {
  const { dayRequest, divert, set } = desk;
  const { tariff } = dayRequest;
  const unit = divert.currency === "" ? DIVERT_WORDS.aKWh : DIVERT_WORDS.aKWhOf(divert.currency);
  return (
    <>
      <TextField
        label={DIVERT_WORDS.currency}
        value={divert.currency}
        schema={divertSettingsSchema.shape.currency.unwrap()}
        onValue={(currency) => set({ currency }, "currency")}
      />
      <NumberField
        label={DIVERT_WORDS.importCosts}
        unit={unit}
        least={-0.001}
        most={10}
        value={tariff.importPerKwh}
        onValue={(price) =>
          price !== undefined && set({ tariff: { ...tariff, importPerKwh: Math.max(0, price) } }, "import")
        }
      />
      <NumberField
        label={DIVERT_WORDS.atNight}
        about={DIVERT_WORDS.importCostsLower}
        unit={unit}
        least={-0.001}
        most={10}
        value={tariff.nightPerKwh}
        onValue={(price) =>
          price !== undefined && set({ tariff: { ...tariff, nightPerKwh: Math.max(0, price) } }, "night")
        }
      />
      <NumberField
        label={DIVERT_WORDS.exportEarns}
        unit={unit}
        least={-1.001}
        most={10}
        value={tariff.exportPerKwh}
        onValue={(exportPerKwh) => exportPerKwh !== undefined && set({ tariff: { ...tariff, exportPerKwh } }, "export")}
      />
    </>
  );
}

/** Sun or house of a day from a file, instead of the simulated ones. */
function OwnSeriesFields({
  open,
  desk,
  problem,
}: {
  open: (text: string, fileName: string, what: "sunW" | "houseW") => void;
  desk: DivertDesk;
  problem: string | undefined;
}) {
  const { own, setOwn } = desk;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-3">
      {(
        [
          ["sunW", DIVERT_WORDS.sun],
          ["houseW", DIVERT_WORDS.house],
        ] as const
      ).map(([what, name]) => (
        <span key={what} className="inline-flex items-center gap-2">
          <FileButton
            accept=".csv,.txt,text/csv,text/plain"
            isSmall
            onText={(text, fileName) => open(text, fileName, what)}
          >
            {DIVERT_WORDS.ownOfADayCsvW(name)}
          </FileButton>
          {own[what] && (
            <button
              type="button"
              className="link text-sm"
              onClick={() => {
                const { [what]: _gone, ...rest } = own;
                setOwn(rest);
              }}
            >
              {DIVERT_WORDS.backToTheSimulated(name)}
            </button>
          )}
        </span>
      ))}
      {problem && (
        <p role="alert" className="font-semibold text-error">
          {problem}
        </p>
      )}
    </div>
  );
}
