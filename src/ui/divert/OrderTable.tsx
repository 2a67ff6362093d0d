"use client";

import { orderText } from "@/core/control/divertOfPlan";
import type { DivertSettings } from "@/core/plan/divertSettings";
import type { DiversionTotals } from "@/core/simulation/diversionSchema";
import { fixedText } from "@/core/units";
import type { DivertDesk } from "@/ui/divert/useDivert";
import { useSay, useThreeDigits } from "@/ui/parts/browser/useNumberStyle";

/** Surplus orders side by side: every school has its row; the one that is meant is marked. */
export function OrderTable({
  desk: { set },
  totals,
  of,
}: {
  desk: DivertDesk;
  totals: readonly DiversionTotals[];
  of: string;
}) {
  const cheapest = Math.min(...totals.map(({ money }) => money));
  return (
    <section aria-label="Surplus orders">
      <h3 className="font-bold">Every order, {of}</h3>
      <div className="overflow-x-auto" role="region" aria-label={`Orders, ${of}`} tabIndex={0}>
        <table className="w-full text-left text-sm">
          <thead>
            <tr className="border-b-2 border-base-300">
              <th scope="col" className="pr-3">
                Surplus first to
              </th>
              {["self-use kWh", "export kWh", "import kWh", "hot water l", "vehicle km", "bill"].map((name) => (
                <th key={name} scope="col" className="px-2 text-right">
                  {name}
                </th>
              ))}
              <th scope="col">
                <span className="sr-only">Choose</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {totals.map((row, at) => (
              <OrderRow key={row.order.join()} row={row} at={at} cheapest={cheapest} set={set} />
            ))}
          </tbody>
        </table>
      </div>
      <p className="quiet text-sm">
        All orders have the same sun and house. The bill is import less export by the tariff; battery first, heat first
        and vehicle first are all schools, and the customer chooses.
      </p>
    </section>
  );
}

function OrderRow({
  row,
  at,
  cheapest,
  set,
}: {
  row: DiversionTotals;
  at: number;
  cheapest: number;
  set: (change: Partial<DivertSettings>, field?: string) => void;
}) {
  const three = useThreeDigits();
  const say = useSay();
  return (
    <tr className={`border-b border-base-300 ${at === 0 ? "bg-base-200 font-bold" : ""}`}>
      <th scope="row" className="py-2 pr-3">
        {orderText(row.order)}
        {at === 0 ? " (meant)" : ""}
      </th>
      {[row.selfUseKwh, row.exportKwh, row.importKwh, row.hotLitres, row.km].map((value, which) => (
        <td key={which} className="reading px-2 text-right">
          {three(value)}
        </td>
      ))}
      <td className="reading px-2 text-right">
        {say(fixedText(row.money, 2))}
        {row.money <= cheapest + 0.005 ? <span className="block text-xs font-bold">lowest</span> : null}
      </td>
      <td className="text-right">
        {at > 0 && (
          <button type="button" className="btn btn-sm press" onClick={() => set({ order: [...row.order] })}>
            Mean this<span className="sr-only"> {orderText(row.order)}</span>
          </button>
        )}
      </td>
    </tr>
  );
}
