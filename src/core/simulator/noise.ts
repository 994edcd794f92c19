/** Noise that is the same in every run with the same seed. */
export class Noise {
  private state: number;

  constructor(seed: number) {
    this.state = seed >>> 0 || 1;
  }

  /** Evenly spread between 0 and 1: a 32-bit xorshift (Marsaglia, “Xorshift RNGs”, J. Stat. Software 8(14), 2003). */
  even(): number {
    let x = this.state;
    x ^= x << 13;
    x ^= x >>> 17;
    x ^= x << 5;
    this.state = x >>> 0;
    return this.state / 0x1_0000_0000;
  }

  /** Spread like readings are: mean 0, standard deviation `sigma` (sum of twelve even draws). */
  bell(sigma: number): number {
    let sum = -6;
    for (let i = 0; i < 12; i++) sum += this.even();
    return sum * sigma;
  }
}
