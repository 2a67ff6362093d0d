"use client";

import { equalService, type EqualService } from "@/core/control/equalService";
import { orderText } from "@/core/control/divertOfPlan";
import type { DivertSettings } from "@/core/plan/divertSettings";
import type { DiversionTotals } from "@/core/simulation/diversionSchema";
import { fixedText } from "@/core/units";
import type { DivertDesk } from "@/ui/divert/useDivert";
import { useSay, useThreeDigits } from "@/ui/parts/browser/useNumberStyle";
import { DIVERT_WORDS } from "@/ui/words/divertWords";

/** Surplus orders side by side: every method has its row; the one that is meant is marked. */
export function OrderTable({
  desk: { set, divert, dayRequest },
  totals,
  of,
}: {
  desk: DivertDesk;
  totals: readonly DiversionTotals[];
  of: string;
}) {
  const equal = equalService(totals, dayRequest);
  const cheapest = Math.min(...equal.map(({ money }) => money));
  const bill = divert.currency === "" ? "" : ` ${divert.currency}`;
  const columns = [
    DIVERT_WORDS.selfUseKWh,
    DIVERT_WORDS.exportKWh,
    DIVERT_WORDS.importKWh,
    DIVERT_WORDS.hotWaterL,
    DIVERT_WORDS.vehicleKm,
    `${DIVERT_WORDS.bill}${bill}`,
    DIVERT_WORDS.billForAsMuch(bill),
  ];
  return (
    <section aria-label={DIVERT_WORDS.surplusOrders}>
      <h3 className="font-bold">{DIVERT_WORDS.everyOrder(of)}</h3>
      <div className="overflow-x-auto" role="region" aria-label={DIVERT_WORDS.orders(of)} tabIndex={0}>
        <table className="stacked w-full text-left text-sm">
          <OrderHead columns={columns} />
          <tbody>
            {totals.map((row, at) => (
              <OrderRow
                key={row.order.join()}
                row={row}
                columns={columns}
                equal={equal[at]!}
                isMeant={at === 0}
                cheapest={cheapest}
                set={set}
              />
            ))}
          </tbody>
        </table>
      </div>
      <p className="quiet text-sm">{DIVERT_WORDS.allOrdersHaveTheSameSunAndHouse}</p>
    </section>
  );
}

function OrderHead({ columns }: { columns: readonly string[] }) {
  return (
    <thead>
      <tr className="border-b-2 border-base-300">
        <th scope="col" className="pr-3">
          {DIVERT_WORDS.surplusFirstTo}
        </th>
        {columns.map((name) => (
          <th key={name} scope="col" className="px-2 text-right">
            {name}
          </th>
        ))}
        <th scope="col">
          <span className="sr-only">{DIVERT_WORDS.choose}</span>
        </th>
      </tr>
    </thead>
  );
}

function OrderRow({
  row,
  columns,
  equal,
  isMeant,
  cheapest,
  set,
}: {
  row: DiversionTotals;
  columns: readonly string[];
  equal: EqualService;
  isMeant: boolean;
  cheapest: number;
  set: (change: Partial<DivertSettings>, field?: string) => void;
}) {
  const three = useThreeDigits();
  const say = useSay();
  return (
    <tr className={`border-b border-base-300 ${isMeant ? "bg-base-200 font-bold" : ""}`}>
      <th scope="row" className="py-2 pr-3">
        {orderText(row.order)}
        {isMeant ? ` ${DIVERT_WORDS.chosen}` : ""}
      </th>
      {[row.selfUseKwh, row.exportKwh, row.importKwh, row.hotLitres, row.km].map((value, which) => (
        <td key={which} data-column={columns[which]} className="reading px-2 text-right">
          {three(value)}
        </td>
      ))}
      <td data-column={columns.at(-2)} className="reading px-2 text-right">
        {say(fixedText(row.money, 2))}
      </td>
      <td data-column={columns.at(-1)} className="reading px-2 text-right">
        <BillForAsMuch equal={equal} isLowest={equal.money <= cheapest + 0.005} />
      </td>
      <td className="text-right print:hidden">
        {!isMeant && (
          <button type="button" className="btn btn-sm press" onClick={() => set({ order: [...row.order] })}>
            {DIVERT_WORDS.choose}
            <span className="sr-only"> {orderText(row.order)}</span>
          </button>
        )}
      </td>
    </tr>
  );
}

/** What the order costs once it gives as much hot water and as many kilometres as the best. */
function BillForAsMuch({ equal, isLowest }: { equal: EqualService; isLowest: boolean }) {
  const three = useThreeDigits();
  const say = useSay();
  return (
    <span>
      {say(fixedText(equal.money, 2))}
      {isLowest && <span className="block text-xs font-bold">{DIVERT_WORDS.lowest}</span>}
      {equal.missingLitres >= 1 && (
        <span className="quiet block text-xs">{DIVERT_WORDS.lBought(three(equal.missingLitres))}</span>
      )}
      {equal.missingKm >= 1 && (
        <span className="quiet block text-xs">{DIVERT_WORDS.kmBought(three(equal.missingKm))}</span>
      )}
    </span>
  );
}
