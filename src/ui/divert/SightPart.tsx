"use client";

import { useMemo, useState } from "react";
import type { Controller } from "@/core/control/controllers";
import { blindControllers, whoSeesWhat, type Sight } from "@/core/control/whoSeesWhat";
import type { SiteNode } from "@/core/site/planSchema";
import { type DivertDesk, useDiversion } from "@/ui/divert/useDivert";
import { WrongSightDay } from "@/ui/divert/WrongSightDay";
import { Failure } from "@/ui/parts/show/Failure";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useFindings } from "@/ui/workspace/workspaceContext";
import { DIVERT_WORDS } from "@/ui/words/divertWords";

const MARKS: Readonly<Record<Sight["words"], { readonly sign: string; readonly look: string }>> = {
  seen: { sign: "+1", look: "" },
  "not seen": { sign: "0", look: "quiet" },
  "seen the wrong way": { sign: "−", look: "text-error font-bold" },
  "counted twice": { sign: "×2", look: "text-error font-bold" },
  "seen in part": { sign: DIVERT_WORDS.part, look: "text-warning font-bold" },
};

/** What each controller's CT sees of each device, as fitted or as planned; and what follows from it. */
export function SightPart({ desk }: { desk: DivertDesk }) {
  const { plan } = desk;
  const findings = useFindings();
  const [as, setAs] = useState<"fitted" | "planned">("fitted");
  const sights = useMemo(() => whoSeesWhat(plan, as), [plan, as]);
  const controllers = useMemo(
    () => [...new Map(sights.map(({ controller }) => [controller.id, controller])).values()],
    [sights],
  );
  const devices = [...new Map(sights.map(({ device }) => [device.id, device])).values()];
  const blind = useMemo(() => blindControllers(plan, sights).map(({ name }) => name), [plan, sights]);
  const own = findings.open.filter(({ stage }) => stage === "divert");
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <div className="w-56 max-w-full">
        <SelectField
          label={DIVERT_WORDS.cTs}
          value={as}
          options={[
            { value: "fitted", label: DIVERT_WORDS.asTheyAreFitted },
            { value: "planned", label: DIVERT_WORDS.asPlanned },
          ]}
          onValue={(value) => setAs(value === "planned" ? "planned" : "fitted")}
        />
      </div>
      {controllers.length === 0 ? (
        <p>{DIVERT_WORDS.noControllerOfThisPlanReadsACt}</p>
      ) : (
        <SightTable devices={devices} controllers={controllers} sights={sights} />
      )}
      {blind.length > 0 && (
        <p className="text-sm">
          <b>{DIVERT_WORDS.notInThisTable}</b>{" "}
          {DIVERT_WORDS.ownCtIsNotInThePlanAddItAsAMeter(
            blind.join(", "),
            blind.length === 1 ? DIVERT_WORDS.its : DIVERT_WORDS.their,
          )}
        </p>
      )}
      <p className="text-sm">{DIVERT_WORDS.oneCountsAsALoadShould}</p>
      {own.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      <WrongSightDay desk={desk} sights={sights} />
      <SharedCt desk={desk} />
    </div>
  );
}

function SightTable({
  devices,
  controllers,
  sights,
}: {
  devices: readonly SiteNode[];
  controllers: Controller[];
  sights: readonly Sight[];
}) {
  return (
    <div className="overflow-x-auto" role="region" aria-label={DIVERT_WORDS.whoSeesWhat} tabIndex={0}>
      <table className="stacked w-full text-left text-sm">
        <thead>
          <tr className="border-b-2 border-base-300">
            <th scope="col" className="pr-3">
              {DIVERT_WORDS.controller}
            </th>
            {devices.map(({ id, name }) => (
              <th key={id} scope="col" className="px-2 py-1">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {controllers.map((controller) => (
            <tr key={controller.id} className="border-b border-base-300">
              <th scope="row" className="py-2 pr-3">
                {controller.name}
                <span className="quiet block font-normal">
                  {DIVERT_WORDS.by(controller.meter.name)}
                  {controller.through && DIVERT_WORDS.toldBy(controller.through.name)}
                </span>
              </th>
              {devices.map((device) => {
                const sight = sights.find(
                  (candidate) => candidate.controller.id === controller.id && candidate.device.id === device.id,
                );
                const mark = MARKS[sight?.words ?? "not seen"];
                return (
                  <td key={device.id} data-column={device.name} className={`px-2 ${mark.look}`}>
                    <span>
                      <span className="reading mr-2 text-lg md:mr-0 md:block">{mark.sign}</span>
                      {sight?.words}
                    </span>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The same day with heater and battery on one grid CT, and apart. */
function SharedCt({ desk }: { desk: DivertDesk }) {
  const say = useSay();
  const { dayRequest } = desk;
  const orders = [dayRequest.orders[0]!];
  const base = { ...dayRequest, orders, series: false };
  const contentW = (base.battery?.setPointW ?? 0) + 100;
  const shared = useDiversion({
    ...base,
    sharedCt: true,
    ...(base.heater ? { heater: { ...base.heater, setPointW: contentW } } : {}),
  });
  const apart = useDiversion({ ...base, sharedCt: false });
  const [a, b] = [shared.result?.totals[0], apart.result?.totals[0]];
  const failure = shared.failure ?? apart.failure;
  if (!base.battery || !base.heater) return null;
  if (failure !== undefined) return <Failure of={DIVERT_WORDS.batteryAndHeaterOnOneCt} why={failure} />;
  if (!a || !b) return null;
  return (
    <section aria-label={DIVERT_WORDS.batteryAndHeater} className="panel p-3">
      <h3 className="font-bold">{DIVERT_WORDS.ifTheBatteryFeedsTheHeater}</h3>
      <p>
        {say(DIVERT_WORDS.onOneGridCtWithTheHeaterContent(contentW, base.battery.setPointW))}
        <b className="reading">{say(DIVERT_WORDS.kWh(a.heaterFromBatteryKwh.toFixed(1)))}</b>
        {say(DIVERT_WORDS.intoTheWaterThisDayKWhImported(a.importKwh.toFixed(1), b.importKwh.toFixed(1)))}
      </p>
      <p className="mt-1">
        <b>{DIVERT_WORDS.cures}</b> {DIVERT_WORDS.aCtForTheDiverterThatLeaves}
      </p>
    </section>
  );
}
