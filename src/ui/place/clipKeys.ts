import type { KeyboardEvent } from "react";
import { windowText } from "@/core/job/placeFindings";
import { arrowWords } from "@/core/site/arrowWords";
import type { Step } from "@/core/site/fitClamp";
import { inputTag } from "@/core/site/inputTag";
import type { Ct, Site } from "@/core/site/planSchema";
import type { Picked, PlaceDesk } from "@/ui/place/usePlace";
import { PLACE_WORDS } from "@/ui/words/placeWords";

const STEP_KEYS: Readonly<Record<string, Step>> = {
  ArrowLeft: "along-to-grid",
  ArrowRight: "along-to-load",
  ArrowUp: "across-up",
  ArrowDown: "across-down",
};

/**
 * A key on a CT of the board. While nothing is held the arrows only look from CT to CT; Enter picks one up, then they
 * move it, until Enter puts it down or Escape puts it back.
 */
export function clipKey(event: KeyboardEvent, place: PlaceDesk, what: Picked & { kind: "clip" }, ct: Ct): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const isHeld = place.held === ct.id;
  const isHandled = isHeld ? heldKey(event.key, place, what, ct) : restingKey(event, place, what);
  if (isHandled) event.preventDefault();
}

function restingKey(event: KeyboardEvent, place: PlaceDesk, what: Picked & { kind: "clip" }): boolean {
  const step = STEP_KEYS[event.key];
  if (event.key === "Enter" || event.key === " ") place.hold(what.ct, what.windowAt);
  else if (step) neighbour(event.currentTarget, step)?.focus();
  else return false;
  return true;
}

function heldKey(key: string, place: PlaceDesk, what: Picked & { kind: "clip" }, ct: Ct): boolean {
  const step = STEP_KEYS[key];
  if (step) place.step(what, step);
  else if (key === "Enter" || key === " ") place.putDown();
  else if (key.toLowerCase() === "f") place.turn(ct.id);
  else if (key.toLowerCase() === "s") place.swap(ct.id);
  else if (key === "Delete" || key === "Backspace") removeAndGoOn(place, ct);
  else if (/^[1-9]$/.test(key)) plugByDigit(place, what, ct, Number(key));
  else return false;
  return true;
}

/** What was taken off had the focus: its input has it then, where its next CT begins. */
function removeAndGoOn(place: PlaceDesk, ct: Ct): void {
  const tag = ct.plug && inputTag(place.site, ct.plug.meter, ct.plug.input);
  place.remove(ct.id);
  if (tag) document.querySelector<HTMLElement>(`[data-socket="${CSS.escape(tag)}"]`)?.focus();
}

/** The nearest other CT in a direction on the screen. */
function neighbour(from: EventTarget, step: Step): HTMLElement | undefined {
  if (!(from instanceof HTMLElement)) return undefined;
  const middle = (own: HTMLElement) => {
    const { left, top, width, height } = own.getBoundingClientRect();
    return { x: left + width / 2, y: top + height / 2 };
  };
  const start = middle(from);
  const isAlong = step === "along-to-grid" || step === "along-to-load";
  const sign = step === "along-to-load" || step === "across-down" ? 1 : -1;
  const ahead = [...document.querySelectorAll<HTMLElement>("[data-ct]")].flatMap((own) => {
    const { x, y } = middle(own);
    const [forward, aside] = isAlong ? [sign * (x - start.x), y - start.y] : [sign * (y - start.y), x - start.x];
    return own !== from && forward > 1 ? [{ own, far: forward + 2 * Math.abs(aside) }] : [];
  });
  return ahead.toSorted((a, b) => a.far - b.far)[0]?.own;
}

/** A digit chooses the input of the CT's own meter, or of the first for one that is not plugged in. */
function plugByDigit(place: PlaceDesk, what: Picked, ct: Ct, digit: number): void {
  const meter = place.site.meters.find((candidate) => candidate.id === ct.plug?.meter) ?? place.site.meters[0];
  if (meter?.inputs.some((input) => input.n === digit)) place.plugInto(what, { meter: meter.id, input: digit });
}

/** A CT in words: where it is, its arrow, its leads, its input. */
export function clipLabel(site: Site, ct: Ct): string {
  const plug = ct.plug
    ? PLACE_WORDS.feedsInput(inputTag(site, ct.plug.meter, ct.plug.input))
    : PLACE_WORDS.notPluggedIn;
  const leads = ct.leads === "swapped" ? PLACE_WORDS.leadsSwapped : "";
  return PLACE_WORDS.ctOnArrow(windowText(site, ct.around), arrowWords(ct.arrow), leads, plug);
}
