import type { DiversionRequest, DiversionTotals } from "@/core/simulation/diversionSchema";
import { isWithin } from "@/core/simulation/diversion/dayHours";

const DAYS_A_YEAR = 365;
/** The last day of each month, of a year of 365. */
const MONTH_ENDS = [31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334, 365] as const;

/** Sums of a simulation, W times steps, and what it costs: the books of a site, by month too. */
export class FlowLedger {
  sun = 0;
  house = 0;
  imported = 0;
  exported = 0;
  intoBattery = 0;
  outOfBattery = 0;
  heater = 0;
  heaterFromBattery = 0;
  vehicle = 0;
  /** Import less export, in money times W times steps. */
  money = 0;
  readonly byMonth = MONTH_ENDS.map(() => ({ sunKwh: 0, exportKwh: 0, importKwh: 0, heaterKwh: 0 }));
  readonly isNight: Float64Array;
  private month: number;
  private booked = { sun: 0, exported: 0, imported: 0, heater: 0 };

  /** @param hourOf The hour of each step of a day. */
  constructor(
    private readonly tariff: DiversionRequest["tariff"],
    private readonly hours: number,
    firstDay: number,
    hourOf: Float64Array,
  ) {
    this.isNight = hourOf.map((hour) => Number(isWithin(hour, tariff.nightFromH, tariff.nightToH)));
    this.month = monthOf(firstDay);
  }

  /** A day of the year begins. */
  startDay(day: number): void {
    const next = monthOf(day);
    if (next !== this.month) this.bookMonth();
    this.month = next;
  }

  /** Sun, house, grid and actors of one step, W. @param at Of the steps of a day. */
  step(at: number, sunW: number, houseW: number, gridW: number, batteryW: number, heaterW: number, vehicleW: number) {
    this.sun += sunW;
    this.house += houseW;
    if (gridW > 0) {
      this.imported += gridW;
      this.money += gridW * (this.isNight[at] === 1 ? this.tariff.nightPerKwh : this.tariff.importPerKwh);
    } else {
      this.exported -= gridW;
      this.money += gridW * this.tariff.exportPerKwh;
    }
    if (batteryW > 0) this.intoBattery += batteryW;
    else this.outOfBattery -= batteryW;
    this.heater += heaterW;
    this.vehicle += vehicleW;
  }

  /** The sums in kWh and money, once all is booked. */
  totals() {
    this.bookMonth();
    const kwh = this.hours / 1000;
    return {
      sunKwh: this.sun * kwh,
      houseKwh: this.house * kwh,
      selfUseKwh: (this.sun - this.exported) * kwh,
      importKwh: this.imported * kwh,
      exportKwh: this.exported * kwh,
      batteryInKwh: this.intoBattery * kwh,
      batteryOutKwh: this.outOfBattery * kwh,
      heaterKwh: this.heater * kwh,
      heaterFromBatteryKwh: this.heaterFromBattery * kwh,
      vehicleKwh: this.vehicle * kwh,
      money: this.money * kwh,
      byMonth: this.byMonth,
    } satisfies Partial<DiversionTotals>;
  }

  /** What went into the battery less what came out, kWh. */
  intoBatteryKwh(): number {
    return (this.intoBattery - this.outOfBattery) * (this.hours / 1000);
  }

  private bookMonth(): void {
    const [own, kwh] = [this.byMonth[this.month]!, this.hours / 1000];
    own.sunKwh += (this.sun - this.booked.sun) * kwh;
    own.exportKwh += (this.exported - this.booked.exported) * kwh;
    own.importKwh += (this.imported - this.booked.imported) * kwh;
    own.heaterKwh += (this.heater - this.booked.heater) * kwh;
    this.booked = { sun: this.sun, exported: this.exported, imported: this.imported, heater: this.heater };
  }
}

/** The month of a day of the year, from 0; a day after the last is of the next year. */
function monthOf(day: number): number {
  const within = ((day - 1) % DAYS_A_YEAR) + 1;
  return MONTH_ENDS.findIndex((end) => within <= end);
}
