/** How a meter can reach the device that reads it. */
export type ReadingWay = "wire" | "radio-pair" | "network";

/** One way to the reader, whether it is possible, and why. */
export interface LinkOption {
  readonly kind: ReadingWay;
  readonly possible: boolean;
  /** Why, with the numbers. */
  readonly why: string;
}

/** What the choice of a way depends on; lengths in m. */
export interface LinkQuestion {
  /** Along the route of a cable; undefined where none can be laid. */
  readonly cableM: number | undefined;
  /** In a straight line; undefined where it is not known. */
  readonly straightM: number | undefined;
  /** Both ends can be joined to the customer's network. */
  readonly hasNetworkAtBothEnds: boolean;
}

/** No RS-485 segment is longer, whatever its speed. */
const LONGEST_RS485_M = 1200;
/** Beyond this a trench or a pull of several rooms costs more than a radio pair. */
const EASY_PULL_M = 60;
/** What a sub-GHz pair carries through a few walls. */
const RADIO_REACH_M = 150;

/**
 * Wire, a radio pair, or the customer's network, best first, with the reason for each. Wire comes first wherever a
 * cable can be laid without more: it has no margin to lose. The customer's network comes last: it changes without
 * notice.
 *
 * @example linkChoice({ cableM: 18, straightM: 12, hasNetworkAtBothEnds: true })[0].kind // "wire"
 */
export function linkChoice({ cableM, straightM, hasNetworkAtBothEnds }: LinkQuestion): readonly LinkOption[] {
  const reachM = straightM ?? cableM;
  const wire: LinkOption =
    cableM === undefined
      ? { kind: "wire", possible: false, why: "no cable can be laid between the two places" }
      : cableM > LONGEST_RS485_M
        ? {
            kind: "wire",
            possible: false,
            why: `${cableM} m of cable is more than the ${LONGEST_RS485_M} m that RS-485 carries`,
          }
        : {
            kind: "wire",
            possible: true,
            why: `${cableM} m of cable${cableM > EASY_PULL_M ? ", long to pull: weigh it against a radio pair" : ""}`,
          };
  const radio: LinkOption =
    reachM === undefined
      ? { kind: "radio-pair", possible: false, why: "the distance is not known" }
      : {
          kind: "radio-pair",
          possible: reachM <= RADIO_REACH_M,
          why: `${reachM} m against about ${RADIO_REACH_M} m through a few walls; both ends need a supply`,
        };
  const network: LinkOption = {
    kind: "network",
    possible: hasNetworkAtBothEnds,
    why: hasNetworkAtBothEnds
      ? "both ends can join the customer's network, which changes with router and passphrase"
      : "not both ends can join a network",
  };
  const isEasy = wire.possible && (cableM ?? 0) <= EASY_PULL_M;
  const order = isEasy || !radio.possible ? [wire, radio, network] : [radio, wire, network];
  return [...order.filter((option) => option.possible), ...order.filter((option) => !option.possible)];
}
