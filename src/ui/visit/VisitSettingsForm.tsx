"use client";

import { Plus, SlidersHorizontal } from "lucide-react";
import { OWED_TESTS, schoolChoices, visitSettingsSchema, type PvString } from "@/core/plan/visitSettings";
import type { SiteNode } from "@/core/site/planSchema";
import { CheckField } from "@/ui/parts/form/CheckField";
import { RemoveButton } from "@/ui/parts/form/RemoveButton";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { TextField } from "@/ui/parts/form/TextField";
import { useJob } from "@/ui/workspace/workspaceContext";
import { OWED_TEST_WORDS } from "@/core/visit/rules/testRules";
import { SCHOOLS, type SchoolId } from "@/core/visit/schools";
import { visitTitle } from "@/core/visit/visitKinds";
import { VisitKindFields } from "@/ui/visit/VisitKindFields";
import { TechniciansField } from "@/ui/visit/TechniciansField";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const MOST_STRINGS = 60;
const sourceSchema = visitSettingsSchema.shape.owedTestsSource.unwrap();
const nameSchema = visitSettingsSchema.shape.strings.unwrap().element.shape.name;

/** What of the visit cannot be derived: how many work, which method, and the strings on the roof. */
export function VisitSettingsForm({ desk }: { desk: VisitDesk }) {
  const { settings, setSettings } = desk;
  const job = useJob();
  const solar = job.document.site.nodes.filter(({ kind }) => kind === "pv-inverter" || kind === "hybrid-inverter");
  const setString = (at: number, change: Partial<PvString>, field: string) =>
    setSettings(
      { strings: settings.strings.map((own, which) => (which === at ? { ...own, ...change } : own)) },
      `string ${at} ${field}`,
    );
  return (
    <details className="panel p-3">
      <summary className="press flex cursor-pointer items-center gap-2 font-bold">
        <SlidersHorizontal size={18} aria-hidden />
        <span className="min-w-0">
          {visitTitle(settings)}
          <span className="quiet block text-sm font-normal">{VISIT_WORDS.kindOfVisitTechniciansMethods}</span>
        </span>
      </summary>
      <VisitKindFields desk={desk} />
      <SchoolFields desk={desk} />
      <OwedTestFields desk={desk} />
      <h4 className="mt-3 font-bold">{VISIT_WORDS.strings}</h4>
      <ul className="space-y-2">
        {settings.strings.map((own, at) => (
          <StringRow key={own.id ?? at} own={own} at={at} solar={solar} setString={setString} desk={desk} />
        ))}
      </ul>
      <button
        type="button"
        className="btn press mt-2"
        disabled={solar.length === 0 || settings.strings.length >= MOST_STRINGS}
        onClick={() =>
          setSettings({
            strings: [
              ...settings.strings,
              {
                id: crypto.randomUUID(),
                device: solar[0]!.id,
                name: VISIT_WORDS.string(settings.strings.length + 1),
                modules: 10,
                vocV: 41,
              },
            ],
          })
        }
      >
        <Plus size={18} aria-hidden />
        {VISIT_WORDS.addAString}
      </button>
    </details>
  );
}

const KIT_OPTION = { value: "kit", label: VISIT_WORDS.asEachKitSays };

function SchoolFields({ desk }: { desk: VisitDesk }) {
  const { settings, setSettings } = desk;
  return (
    <>
      <div className="mt-2 w-40">
        <TechniciansField desk={desk} />
      </div>
      <h4 className="mt-3 font-bold">{VISIT_WORDS.methods}</h4>
      <p className="quiet text-sm">{VISIT_WORDS.bothSidesOfEachAreGoodPractice}</p>
      <div className="mt-2 grid gap-3 sm:grid-cols-2 xl:grid-cols-3">
        {Object.entries(SCHOOLS).map(([id, { question, words, usual }]) => {
          const school = id as SchoolId;
          const isKits = schoolChoices[school].safeParse(KIT_OPTION.value).success;
          return (
            <SelectField
              key={id}
              label={question}
              value={settings[school]}
              options={[
                ...(isKits ? [KIT_OPTION] : []),
                ...Object.entries(words).map(([value, label]) => ({ value, label })),
              ]}
              onValue={(value) => {
                const choice = schoolChoices[school].safeParse(value);
                if (choice.success) setSettings({ [school]: choice.data });
              }}
              hint={isKits ? VISIT_WORDS.aKitThatSaysNothing(words[usual.option]) : usual.why}
            />
          );
        })}
      </div>
    </>
  );
}

/** Which tests are asked for, and by which rule; what is not asked for is not in the sheet. */
function OwedTestFields({ desk }: { desk: VisitDesk }) {
  const { settings, setSettings } = desk;
  const asked = new Set(settings.owedTests);
  return (
    <>
      <h4 className="mt-3 font-bold">{VISIT_WORDS.testsThatAreOwed}</h4>
      <div className="mt-1 grid gap-x-4 sm:grid-cols-2 xl:grid-cols-3">
        {OWED_TESTS.map((test) => (
          <CheckField
            key={test}
            checked={asked.has(test)}
            onCheck={(isAsked) =>
              setSettings({ owedTests: OWED_TESTS.filter((own) => (own === test ? isAsked : asked.has(own))) })
            }
          >
            {OWED_TEST_WORDS[test]}
          </CheckField>
        ))}
      </div>
      <div className="max-w-md">
        <TextField
          label={VISIT_WORDS.whichRuleAsksForThem}
          value={settings.owedTestsSource}
          schema={sourceSchema}
          onValue={(owedTestsSource) => setSettings({ owedTestsSource }, "owed tests source")}
          placeholder={VISIT_WORDS.itStandsOnEachOfTheseSteps}
        />
      </div>
    </>
  );
}

function StringRow({
  own,
  at,
  solar,
  setString,
  desk,
}: {
  own: PvString;
  at: number;
  solar: readonly SiteNode[];
  setString: (at: number, change: Partial<PvString>, field: string) => void;
  desk: VisitDesk;
}) {
  const { setSettings, settings } = desk;
  return (
    <li className="flex flex-wrap items-end gap-3">
      <div className="w-48">
        <SelectField
          label={VISIT_WORDS.inverter}
          value={own.device}
          options={solar.map(({ id, name }) => ({ value: id, label: name }))}
          onValue={(device) => setString(at, { device }, "device")}
        />
      </div>
      <div className="w-32">
        <TextField
          label={VISIT_WORDS.nameOfString(at + 1)}
          value={own.name}
          schema={nameSchema}
          onValue={(name) => setString(at, { name }, "name")}
        />
      </div>
      <div className="w-28">
        <NumberField
          label={VISIT_WORDS.modules}
          about={own.name}
          whole
          most={60}
          value={own.modules}
          onValue={(modules) => modules !== undefined && setString(at, { modules }, "modules")}
        />
      </div>
      <div className="w-36">
        <NumberField
          label={VISIT_WORDS.vocOfOne}
          about={own.name}
          unit="V"
          most={200}
          value={own.vocV}
          onValue={(vocV) => vocV !== undefined && setString(at, { vocV }, "voc")}
        />
      </div>
      <RemoveButton
        label={VISIT_WORDS.remove(own.name)}
        onRemove={() => setSettings({ strings: settings.strings.toSpliced(at, 1) })}
      />
    </li>
  );
}
