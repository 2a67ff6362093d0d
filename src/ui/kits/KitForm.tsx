"use client";

import { useMemo, useState } from "react";
import { kitSchema, type Kit } from "@/core/kits/kitSchema";
import { kitSheet, sheetText, type SheetField } from "@/core/kits/kitSheet";
import { readYaml, type LineProblem } from "@/core/kits/readYaml";
import { withRegisters } from "@/core/kits/registerCsv";
import { withKitValue } from "@/core/kits/withKitValue";
import { text as textSchema } from "@/core/text";
import { CheckField } from "@/ui/parts/form/CheckField";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { TextField } from "@/ui/parts/form/TextField";
import { Say } from "@/ui/parts/show/Say";
import { RegisterCsv } from "@/ui/kits/RegisterCsv";
import { KitDoubts } from "@/ui/kits/KitPage";
import { KITS_WORDS } from "@/ui/words/kitsWords";

/** No value of a kit is larger. */
const MOST = 1e9;
const TEXT = textSchema();
const HEAD = ["name", "summary", "source"] as const;
const HEAD_WORDS = {
  name: KITS_WORDS.name,
  summary: KITS_WORDS.whatItIs,
  source: KITS_WORDS.whereTheValuesCameFrom,
} as const;

interface Props {
  readonly text: string;
  readonly problems: readonly LineProblem[];
  readonly onText: (text: string) => void;
}

/** The plain values of a kit as fields with units; each changes its line of the text and nothing else. */
export function KitForm({ text, problems, onText }: Props) {
  const kit = useLastGood(text);
  if (!kit) return <p className="panel p-4">{KITS_WORDS.theTextHasProblemsMendItFirstThen}</p>;
  const put = (path: readonly string[], value: string | number | boolean | undefined) =>
    onText(withKitValue(text, path, value));
  const isBad = problems.length > 0;
  return (
    <form
      className="space-y-5 pr-1 pb-6"
      aria-label={KITS_WORDS.valuesOfTheKit}
      onSubmit={(event) => event.preventDefault()}
    >
      {isBad && (
        <p role="alert" className="caution">
          {KITS_WORDS.seeTheFieldOrTheLineOfTheText(
            problems.length === 1 ? KITS_WORDS.oneValueIsNotGoodYet : KITS_WORDS.valuesAreNotGoodYet(problems.length),
          )}
        </p>
      )}
      <KitDoubts kit={kit} />
      <div className="grid gap-3">
        {HEAD.map((key) => (
          <TextField
            key={key}
            label={HEAD_WORDS[key]}
            value={kit[key]}
            schema={kitSchema.shape[key]}
            onValue={(value) => put([key], value)}
          />
        ))}
      </div>
      {kitSheet(kit).map(({ title, fields }) => (
        <fieldset key={title}>
          <legend className="mb-1 w-full border-b-2 border-base-content text-lg font-bold">{title}</legend>
          <div className="grid items-start gap-3 sm:grid-cols-2">
            {fields.map((field) => (
              <div key={field.path.join(".")} className="min-w-0">
                <FormField field={field} onValue={(value) => put(field.path, value)} />
                <FieldProblem field={field} problems={problems} />
              </div>
            ))}
          </div>
        </fieldset>
      ))}
      <RegisterCsv onRegisters={(registers) => onText(withRegisters(text, registers))} />
      <p className="quiet text-sm">{KITS_WORDS.terminalsCtInputsRegistersLamps}</p>
    </form>
  );
}

/** The kit of a text; while it has problems, the last one that had none. */
function useLastGood(text: string): Kit | undefined {
  const read = useMemo(() => readYaml(text, kitSchema), [text]);
  const [last, setLast] = useState<Kit | undefined>();
  if (read.kind !== "ok") return last;
  if (last !== read.value) setLast(read.value);
  return read.value;
}

function FieldProblem({ field, problems }: { field: SheetField; problems: readonly LineProblem[] }) {
  const own = problems.find(({ path }) => path.join(".") === field.path.join("."));
  if (!own) return null;
  return (
    <p role="alert" className="text-sm font-semibold text-error">
      <Say>{KITS_WORDS.lineOf(own.message, own.line)}</Say>
    </p>
  );
}

function FormField({
  field: { label, unit, value, isOptional, input },
  onValue,
}: {
  field: SheetField;
  onValue: (value: string | number | boolean | undefined) => void;
}) {
  switch (input.kind) {
    case "number":
      return (
        <NumberField
          label={label}
          {...(unit ? { unit } : {})}
          value={typeof value === "number" ? value : undefined}
          least={-MOST}
          most={MOST}
          whole={input.isWhole}
          optional={isOptional}
          onValue={onValue}
        />
      );
    case "choice":
      return (
        <SelectField
          label={label}
          value={typeof value === "string" ? value : ""}
          options={[
            ...(isOptional || value === undefined ? [{ value: "", label: KITS_WORDS.notSaid }] : []),
            ...input.options.map((option) => ({ value: option, label: sheetText(option) })),
          ]}
          onValue={(chosen) => onValue(chosen === "" ? undefined : chosen)}
        />
      );
    case "yes-no":
      return (
        <CheckField checked={value === true} onCheck={(isChecked) => onValue(isChecked)}>
          {label}
        </CheckField>
      );
    case "text":
      return (
        <TextField
          label={label}
          value={typeof value === "string" ? value : ""}
          schema={TEXT}
          onValue={(typed) => onValue(typed === "" && isOptional ? undefined : typed)}
        />
      );
    case "file":
      return (
        <p className="text-sm">
          <span className="mb-0.5 block font-semibold">{label}</span>
          <Say>{value === undefined ? KITS_WORDS.notSaid : sheetText(value, unit)}</Say>{" "}
          <span className="quiet">{KITS_WORDS.inTheText}</span>
        </p>
      );
  }
}
