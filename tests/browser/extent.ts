import type { Page } from "puppeteer-core";

/** How far what scrolls goes beyond what is in it, px, and how far the page goes beyond its window. */
export interface Extent {
  readonly sideways: number;
  readonly empty: number;
  /** Of what scrolls, by its label or its tag, where it goes sideways without saying that it does. */
  readonly wide: readonly string[];
  /** Of all else that a finger can push sideways, but for texts in which a line is a line. */
  readonly pushed: readonly string[];
}

/** Measure a page as it is shown: nothing may scroll sideways, and nothing into emptiness. */
export function extentOf(page: Page): Promise<Extent> {
  return page.evaluate(() => {
    const root = document.documentElement;
    const scrollers = [root, ...document.querySelectorAll<HTMLElement>("main, [role=tabpanel], aside")].filter(
      (own) => own.clientHeight > 0,
    );
    const bottomOf = (own: Element) => {
      let bottom = 0;
      for (const part of own.querySelectorAll("*")) {
        const { bottom: end, width, height } = part.getBoundingClientRect();
        const isHidden = width <= 1 || height <= 1 || part.closest(".sr-only");
        if (!isHidden) bottom = Math.max(bottom, end);
      }
      return (
        bottom + own.scrollTop - (own === root ? 0 : own.getBoundingClientRect().top) + (own === root ? scrollY : 0)
      );
    };
    const empty = scrollers.map((own) =>
      own.scrollHeight <= own.clientHeight + 1 ? 0 : own.scrollHeight - bottomOf(own) - 1,
    );
    const pushed = [...document.querySelectorAll<HTMLElement>("body *:not(textarea, .cm-scroller)")].filter(
      (own) => own.scrollWidth > own.clientWidth + 1 && ["auto", "scroll"].includes(getComputedStyle(own).overflowX),
    );
    const named = (own: Element) => own.getAttribute("aria-label") ?? (own.id || own.tagName);
    return {
      sideways: root.scrollWidth - innerWidth,
      empty: Math.max(0, ...empty),
      wide: scrollers.filter((own) => own.scrollWidth > own.clientWidth + 1 && own !== root).map(named),
      pushed: pushed.map(named),
    };
  });
}
