/** What a runner's report comes to. */
interface Tally {
  passed: number;
  failed: number;
  /** Sentences to show. */
  said: string[];
}
export const MOST_FLAKY: number;
export function tallyUnit(unit: object | null, status: number): Tally;
export function tallyScreens(screens: object | null, status: number): Tally;
