import { fieldWords, type FieldPath } from "@/core/job/fieldWords";
import { jobDocumentSchema, type JobDocument } from "@/core/job/jobDocument";
import { inputTag } from "@/core/site/inputTag";
import { sameJson } from "@/core/sameJson";
import { cutText } from "@/core/text";

/** Whose value of a field goes on. */
export type MergeSide = "mine" | "theirs";

/** A field that both changed, each to something else. */
export interface MergeConflict {
  /** Names it among all, the same whatever else changes. */
  readonly id: string;
  /** What it is, in words. */
  readonly where: string;
  readonly mine: string;
  readonly theirs: string;
}

/** Two versions of a job in one, with what both changed. */
export interface JobMerge {
  readonly document: JobDocument;
  readonly conflicts: readonly MergeConflict[];
  /** What came in from the other, in words. */
  readonly taken: readonly string[];
}

/** Nothing stands there. */
const ABSENT = Symbol("absent");
type Value = unknown;
type Fields = Readonly<Record<string, unknown>>;

/** When something was done last: nobody chooses between two moments, the later one goes on. */
const TIMES: ReadonlySet<unknown> = new Set(["changedAt", "readAt"]);
const NOTHING = "nothing";
const LONGEST = 60;
/** By what the entries of a list are told apart, whatever their order; the first that all of them have. */
const KEYS: readonly (readonly string[])[] = [
  ["id"],
  ["n"],
  ["finding"],
  ["meter", "input"],
  ["item", "port"],
  ["from", "to"],
  ["node"],
  ["role"],
];

/**
 * Two versions of a job that grew from one, put together field by field: what only one of them changed goes on, entries
 * of lists are told apart by what names them, and what both changed is a conflict for which somebody chooses. Until
 * then mine goes on.
 *
 * For example: Mine with another breaker at the roof inverter, theirs with another name of the job: both, no conflict.
 *
 * @param choose Whose value of a conflict goes on, by its id.
 * @returns Nothing where the two cannot stand in one job: a device that one took out and the other uses.
 */
export function mergeJobs(
  base: JobDocument,
  mine: JobDocument,
  theirs: JobDocument,
  choose: (id: string) => MergeSide = () => "mine",
): JobMerge | undefined {
  const merging = new Merging(mine, theirs, choose);
  const merged = jobDocumentSchema.safeParse(merging.value([], base, mine, theirs));
  return merged.success
    ? { document: merged.data, conflicts: merging.conflicts, taken: [...new Set(merging.taken)] }
    : undefined;
}

class Merging {
  readonly conflicts: MergeConflict[] = [];
  readonly taken: string[] = [];

  constructor(
    private readonly mine: JobDocument,
    private readonly theirs: JobDocument,
    private readonly choose: (id: string) => MergeSide,
  ) {}

  value(path: FieldPath, base: Value, mine: Value, theirs: Value): Value {
    if (same(mine, theirs) || same(theirs, base)) return mine;
    if (isFields(mine) && isFields(theirs)) return this.fields(path, isFields(base) ? base : {}, mine, theirs);
    if (Array.isArray(mine) && Array.isArray(theirs)) {
      const list = this.list(path, Array.isArray(base) ? base : [], mine, theirs);
      if (list) return list;
    }
    if (TIMES.has(path.at(-1)) && typeof mine === "string" && typeof theirs === "string")
      return mine > theirs ? mine : theirs;
    if (!same(mine, base)) return this.conflict(path, mine, theirs);
    this.taken.push(this.words(path, theirs === ABSENT ? this.mine : this.theirs));
    return theirs;
  }

  private fields(path: FieldPath, base: Fields, mine: Fields, theirs: Fields): Fields {
    const names = [...new Set([...Object.keys(theirs), ...Object.keys(mine)])];
    const of = (own: Fields, name: string) => (name in own && own[name] !== undefined ? own[name] : ABSENT);
    return Object.fromEntries(
      names
        .map((name) => [name, this.value([...path, name], of(base, name), of(mine, name), of(theirs, name))] as const)
        .filter(([, value]) => value !== ABSENT),
    );
  }

  /** Entries by what names them; plain words as a set; without a name, one by one where none came or went. */
  private list(path: FieldPath, base: readonly Value[], mine: readonly Value[], theirs: readonly Value[]) {
    const all = [...base, ...mine, ...theirs];
    if (all.every((value) => typeof value === "string")) {
      this.taken.push(this.words(path, this.theirs));
      return setOf(base, mine, theirs);
    }
    if (!all.every(isFields)) return undefined;
    const keyOf = namesOf([base, mine, theirs] as readonly (readonly Fields[])[]);
    if (!keyOf) {
      if (mine.length !== theirs.length || mine.length !== base.length) return undefined;
      return mine.map((own, at) => this.value([...path, at], base[at], own, theirs[at]));
    }
    const [byBase, byMine, byTheirs] = [base, mine, theirs].map(
      (own) => new Map(own.map((entry) => [keyOf(entry as Fields), entry])),
    ) as [Map<string, Value>, Map<string, Value>, Map<string, Value>];
    const order = orderOf([...byBase.keys()], [...byMine.keys()], [...byTheirs.keys()]);
    return order
      .map((key) => {
        const own: FieldPath = [...path, { key, names: keyOf, said: (entry) => this.saidOf(entry) }];
        const [before, ours, others] = [byBase, byMine, byTheirs].map((entries) => entries.get(key) ?? ABSENT);
        // Two that came up with the same name are two things, and no halves of one.
        const areTwo = before === ABSENT && ours !== ABSENT && others !== ABSENT && !same(ours, others);
        return areTwo ? this.conflict(own, ours, others) : this.value(own, before, ours, others);
      })
      .filter((entry) => entry !== ABSENT);
  }

  private conflict(path: FieldPath, mine: Value, theirs: Value): Value {
    const id = path.map((part) => (typeof part === "object" ? part.key : part)).join(" › ");
    this.conflicts.push({
      id,
      where: this.words(path, mine === ABSENT ? this.theirs : this.mine),
      mine: shortText(mine),
      theirs: shortText(theirs),
    });
    return this.choose(id) === "mine" ? mine : theirs;
  }

  /** What an entry is of, where it has no name of its own: a reading, a device's power in a step. */
  private saidOf({ meter, input, node }: Fields): string | undefined {
    const { site } = this.mine;
    if (typeof meter === "string" && typeof input === "number" && site.meters.some(({ id }) => id === meter))
      return inputTag(site, meter, input);
    return typeof node === "string" ? site.nodes.find(({ id }) => id === node)?.name : undefined;
  }

  private words(path: FieldPath, document: JobDocument): string {
    return fieldWords(jobDocumentSchema, document, path);
  }
}

function isFields(value: Value): value is Fields {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function same(a: Value, b: Value): boolean {
  if (a === ABSENT || b === ABSENT) return a === b;
  return sameJson(a, b);
}

/** What the entries of lists are named by, where it tells all of each apart. */
function namesOf(lists: readonly (readonly Fields[])[]): ((entry: Fields) => string) | undefined {
  const key = KEYS.find((names) =>
    lists.every((list) => {
      const keys = list.map((entry) => JSON.stringify(names.map((name) => entry[name])));
      const areThere = list.every((entry) => names.every((name) => entry[name] !== undefined));
      return areThere && new Set(keys).size === keys.length;
    }),
  );
  return key && ((entry) => key.map((name) => String(entry[name])).join(" "));
}

/** What both have or one added, less what one took out. */
function setOf(base: readonly Value[], mine: readonly Value[], theirs: readonly Value[]): readonly Value[] {
  const [before, own, other] = [new Set(base), new Set(mine), new Set(theirs)];
  const isKept = (value: Value) => (before.has(value) ? own.has(value) && other.has(value) : true);
  return [...new Set([...theirs, ...mine])].filter(isKept);
}

/** Their order with what I added behind the entry that it follows in mine; mine where only I put it in another. */
function orderOf(base: readonly string[], mine: readonly string[], theirs: readonly string[]): readonly string[] {
  const inBase = (order: readonly string[]) => order.filter((key) => base.includes(key));
  const common = (order: readonly string[]) =>
    inBase(order).filter((key) => mine.includes(key) && theirs.includes(key));
  const isMineMoved = !sameJson(common(mine), common(base)) && sameJson(common(theirs), common(base));
  const [leading, following] = isMineMoved ? [mine, theirs] : [theirs, mine];
  const order = [...leading];
  following.forEach((key, at) => {
    if (order.includes(key)) return;
    const before = following.slice(0, at).findLast((other) => order.includes(other));
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, key);
  });
  return order;
}

function shortText(value: Value): string {
  if (value === ABSENT) return NOTHING;
  if (isFields(value)) return String(value.name ?? value.label ?? value.title ?? "changed");
  if (Array.isArray(value)) return value.every((own) => typeof own !== "object") ? value.join(", ") : "changed";
  if (typeof value === "boolean") return value ? "yes" : "no";
  const text = String(value);
  return text.length > LONGEST ? `${cutText(text, LONGEST)}…` : text;
}
