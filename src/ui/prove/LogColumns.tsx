"use client";

import type { LogColumn, LogMapping } from "@/core/flows/log/logOfRows";
import { headerUnit } from "@/core/headerUnit";
import { SelectField } from "@/ui/parts/form/SelectField";
import type { seriesIds } from "@/ui/prove/logMapping";
import { PROVE_WORDS } from "@/ui/words/proveWords";

const UNITS = [
  { value: "W", label: "W" },
  { value: "kW", label: PROVE_WORDS.kW },
  { value: "kWh", label: PROVE_WORDS.kWhAPeriod },
] as const;

const NO_UNIT = { value: "", label: PROVE_WORDS.choose };

/** Which column of a file is what, in which unit, and what its sign means; import and export may be two columns. */
export function LogColumns({
  columns,
  mapping,
  ids: { inputs, devices },
  onMapping,
}: {
  columns: readonly string[];
  mapping: LogMapping;
  ids: ReturnType<typeof seriesIds>;
  onMapping: (mapping: LogMapping) => void;
}) {
  const names = columns.map((name) => ({ value: name, label: name }));
  const change = (id: string, from: LogColumn | undefined) => {
    const others = mapping.series.filter((own) => own.id !== id);
    onMapping({ ...mapping, series: from ? [...others, { id, from }] : others });
  };
  return (
    <div className="space-y-2">
      <div className="w-56 max-w-full">
        <SelectField
          label={PROVE_WORDS.columnOfTheTime}
          value={mapping.time}
          options={names}
          onValue={(time) => onMapping({ ...mapping, time })}
        />
      </div>
      {[...inputs, ...devices].map(({ id, name }) => (
        <ColumnRow
          key={id}
          name={name}
          isDevice={id.startsWith("node ")}
          names={names}
          from={mapping.series.find((own) => own.id === id)?.from}
          onColumn={(from) => change(id, from)}
        />
      ))}
    </div>
  );
}

function ColumnRow({
  name,
  isDevice,
  names,
  from,
  onColumn,
}: {
  name: string;
  isDevice: boolean;
  names: { value: string; label: string }[];
  from: LogColumn | undefined;
  onColumn: (from: LogColumn | undefined) => void;
}) {
  const none = { value: "", label: PROVE_WORDS.notInTheFile };
  return (
    <fieldset className="flex flex-wrap items-end gap-2">
      <legend className="sr-only">{name}</legend>
      <div className="w-56 max-w-full">
        <SelectField
          label={name}
          value={from?.column ?? ""}
          options={[none, ...names]}
          onValue={(column) =>
            onColumn(column ? { isTurned: isDevice, ...from, column, unit: headerUnit(column) } : undefined)
          }
        />
      </div>
      {from && <ColumnMeaning isDevice={isDevice} names={names} from={from} onColumn={onColumn} />}
    </fieldset>
  );
}

/** Its unit, what is taken off it, and what is positive in it. */
function ColumnMeaning({
  isDevice,
  names,
  from,
  onColumn,
}: {
  isDevice: boolean;
  names: { value: string; label: string }[];
  from: LogColumn;
  onColumn: (from: LogColumn) => void;
}) {
  return (
    <>
      <div className="w-32">
        <SelectField
          label={PROVE_WORDS.unit}
          value={from.unit ?? ""}
          options={from.unit === undefined ? [NO_UNIT, ...UNITS] : UNITS}
          onValue={(unit) => onColumn({ ...from, unit: UNITS.find(({ value }) => value === unit)?.value })}
        />
      </div>
      <div className="w-44">
        <SelectField
          label={PROVE_WORDS.lessExport}
          value={from.minus ?? ""}
          options={[{ value: "", label: PROVE_WORDS.none }, ...names]}
          onValue={(minus) => {
            const { minus: _, ...rest } = from;
            onColumn(minus ? { ...rest, minus } : rest);
          }}
        />
      </div>
      <div className="w-60 max-w-full">
        <SelectField
          label={PROVE_WORDS.positiveInTheFileIs}
          value={from.isTurned ? "turned" : "same"}
          options={
            isDevice
              ? [
                  { value: "turned", label: PROVE_WORDS.generating },
                  { value: "same", label: PROVE_WORDS.consuming },
                ]
              : [
                  { value: "same", label: PROVE_WORDS.asTheMeterShowsIt },
                  { value: "turned", label: PROVE_WORDS.theOtherWayRound },
                ]
          }
          onValue={(sign) => onColumn({ ...from, isTurned: sign === "turned" })}
        />
      </div>
    </>
  );
}
