/**
 * Long work of a node. One run is in flight; what is asked meanwhile is done by one more run after it, however often it was
 * asked. A run that failed is over: the next change asks again.
 */
export class Run {
  private asked = 0;
  private flight?: Promise<void>;

  /**
   * @param work does what is to be done now; `overtaken` tells between its steps whether it was asked anew meanwhile
   * @param failed is told of what it threw
   */
  constructor(
    private readonly work: (overtaken: () => boolean) => Promise<void>,
    private readonly failed: (error: Error) => void,
  ) {}

  get running(): boolean {
    return this.flight !== undefined;
  }

  ask(): void {
    this.asked++;
    this.flight ??= this.go();
  }

  /** Ends when nothing is in flight. */
  async settled(): Promise<void> {
    while (this.flight) await this.flight;
  }

  private async go(): Promise<void> {
    try {
      for (let at = -1; at !== this.asked;) {
        at = this.asked;
        await this.work(() => at !== this.asked);
      }
    } catch (error) {
      this.failed(error as Error);
    } finally {
      this.flight = undefined;
    }
  }
}
