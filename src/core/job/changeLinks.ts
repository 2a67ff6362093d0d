import type { JobDocument } from "@/core/job/jobDocument";
import type { Link } from "@/core/plan/linkSchema";

/**
 * Change the links of a job. What a multimeter showed belongs to a line as it was wired: where its devices or their
 * order changed, the readings go with the old line. Ticks of cores stay with the cores that are still there.
 *
 * For example: After two devices of a line change places, its readings are gone and those of other lines stay.
 */
export function changeLinks(document: JobDocument, change: (links: readonly Link[]) => Link[]): JobDocument {
  const links = change(document.links);
  const lineOf = (list: readonly Link[], id: string) =>
    list
      .find((link) => link.id === id)
      ?.members.map(({ item, port }) => `${item} ${port}`)
      .join(" ");
  const isSame = (id: string) => lineOf(document.links, id) === lineOf(links, id);
  return { ...document, links, busReadings: document.busReadings.filter((reading) => isSame(reading.link)) };
}
