/** Up to where changes were taken in, see `Journal.since`. */
export interface Mark {
  readonly epoch: number;
  readonly at: number;
}

/** More changes than this are told as "anything". */
const MOST = 100_000;

/** A number for each time a journal began, whosever: marks of others never fit. */
let epochs = 0;

/** What changed, by id, for any number of readers who each keep up at their own pace. */
export class Journal {
  private log: string[] = [];
  private epoch = ++epochs;

  note(id: string): void {
    this.log.push(id);
  }

  /** All was made from nothing: whoever asks next is told that it may be anything. */
  begin(): void {
    this.log = [];
    this.epoch = ++epochs;
  }

  /**
   * What changed since a mark: ids, each once; `undefined` where it may be anything.
   *
   * @param mark of the answer before; none the first time
   */
  since(mark?: Mark): { ids: ReadonlySet<string> | undefined; mark: Mark } {
    if (this.log.length > MOST) this.begin();
    return { ids: mark?.epoch === this.epoch ? new Set(this.log.slice(mark.at)) : undefined, mark: { epoch: this.epoch, at: this.log.length } };
  }
}
