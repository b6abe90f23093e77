/** Whether the server is about to stop: it says that it isn't ready any more, and goes on answering for a while. */
export class Drain {
  #isDraining = false;

  get isDraining(): boolean {
    return this.#isDraining;
  }

  /** @param seconds those who share out requests have to notice */
  async begin(seconds: number): Promise<void> {
    this.#isDraining = true;
    if (seconds > 0) await new Promise((resolve) => setTimeout(resolve, 1000 * seconds));
  }
}
