/** Proofs that run beside each other while the next contracts are learned: no more than so many, since each holds samples. */
export class Proofs {
  private readonly running = new Set<Promise<void>>();
  private count = 0;
  private failed: { readonly position: number; readonly error: unknown } | undefined;

  constructor(private readonly most: number) {}

  /** Waits until one more may be begun. @throws what the first that failed threw, when all have ended */
  async room(): Promise<void> {
    while (this.running.size >= this.most) await Promise.race(this.running);
    if (this.failed !== undefined) await this.done();
  }

  add(prove: () => Promise<void>): void {
    const position = this.count++;
    const run = prove()
      .catch((error: unknown) => {
        if (this.failed === undefined || position < this.failed.position) this.failed = { position, error };
      })
      .finally(() => this.running.delete(run));
    this.running.add(run);
  }

  /** Waits for all. @throws what the first that failed threw, by the order in which they were begun */
  async done(): Promise<void> {
    await Promise.all(this.running);
    if (this.failed !== undefined) throw this.failed.error;
  }
}
