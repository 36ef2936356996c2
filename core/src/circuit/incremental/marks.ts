/** Which of many things have been met in one pass. Beginning the next pass costs nothing. */
export class Marks {
  private readonly passes: Int32Array;
  private pass = 1;

  constructor(count: number) {
    this.passes = new Int32Array(count);
  }

  /** Forgets all that was met. */
  begin(): void {
    this.pass += 1;
  }

  has(i: number): boolean {
    return this.passes[i] === this.pass;
  }

  /** Returns whether it had not been met in this pass. */
  add(i: number): boolean {
    if (this.passes[i] === this.pass) return false;
    this.passes[i] = this.pass;
    return true;
  }
}
