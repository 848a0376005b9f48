/** Room for so much at once. What is larger than all of it goes by itself. */
export class Room {
  private taken = 0;
  private readonly queue: (() => void)[] = [];

  constructor(private readonly size: number) {}

  async take(weight: number): Promise<void> {
    while (this.taken > 0 && this.taken + weight > this.size)
      await new Promise<void>((resolve) => this.queue.push(resolve));
    this.taken += weight;
  }

  give(weight: number): void {
    this.taken -= weight;
    for (const go of this.queue.splice(0)) go();
  }
}
