/**
 * Candidates of one copy of a pattern, a column for each thing known of them, by slot. Each stage of
 * growing goes over those still in question and shortens their list: a loop over columns keeps its
 * numbers in registers, where a function asked candidate by candidate boxes every one it is handed.
 */
export interface Candidates {
  /** slots still in question: the first `count` of them, ascending */
  live: Int32Array;
  count: number;
  /** those among them whose place has to be looked at, and 1 for each of the others: what the rule says there is known from their cell */
  asked: Int32Array;
  askedCount: number;
  known: Uint8Array;
  /** metres */
  x: Float64Array;
  z: Float64Array;
  /** the number each drew for itself, 0 to 1 */
  drew: Float64Array;
  /** what a hand has sown there, a share of the species' density */
  sown: Float64Array;
  /** where it would stand: height in metres, steepness (rise over run), share of wanted ground, how much the rule lets grow */
  height: Float64Array;
  steep: Float64Array;
  share: Float64Array;
  rule: Float64Array;
}

/** Room for so many candidates, a flat table of typed arrays. */
export function candidates(slots: number): Candidates {
  const column = () => new Float64Array(slots);
  return {
    live: new Int32Array(slots),
    count: 0,
    asked: new Int32Array(slots),
    askedCount: 0,
    known: new Uint8Array(slots),
    x: column(),
    z: column(),
    drew: column(),
    sown: column(),
    height: column(),
    steep: column(),
    share: column(),
    rule: column(),
  };
}
