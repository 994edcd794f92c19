/** What a program commands besides moving: the quantities that commands tell a printer. */
export const EventKind = {
  nozzleTemperature: 0,
  nozzleTemperatureWait: 1,
  bedTemperature: 2,
  bedTemperatureWait: 3,
  /** 0–255 */
  fan: 4,
  /** % */
  speedFactor: 5,
  /** % */
  flowFactor: 6,
  /** mm/s² */
  printAcceleration: 7,
  travelAcceleration: 8,
  retractAcceleration: 9,
  /** mm/s */
  jerkX: 10,
  jerkY: 11,
  jerkZ: 12,
  jerkE: 13,
  /** mm */
  junctionDeviation: 14,
  /** s */
  pressureAdvance: 15,
  tool: 16,
  /** s */
  dwell: 17,
  motorsOff: 18,
  motorsOn: 19,
  /** mm */
  firmwareRetractLength: 20,
  /** mm/s */
  firmwareRetractSpeed: 21,
  /** Highest acceleration of an axis, mm/s²; X, Y, Z and the extruder. */
  axisAccelerationX: 22,
  axisAccelerationY: 23,
  axisAccelerationZ: 24,
  axisAccelerationE: 25,
  /** Highest feed of an axis, mm/s. */
  axisFeedX: 26,
  axisFeedY: 27,
  axisFeedZ: 28,
  axisFeedE: 29,
  /** Where a tool's nozzle stands from the first, mm as the crow flies. */
  toolOffset: 30,
  /** Some of the motors were turned off by name; the others hold on purpose. */
  someMotorsOff: 31,
} as const;
export type EventKind = (typeof EventKind)[keyof typeof EventKind];
