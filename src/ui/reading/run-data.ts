/** A printed piece as the server sends it. */
import type { Measure } from "@/core/reading/guide";
import type { Photo } from "@/core/reading/photo";
import type { GivenMark } from "@/core/reading/score";
import type { Measured } from "@/core/reading/found";
import type { CriterionKey } from "@/core/reading";
import type { Run, Unit } from "@/core/trials/run";
import type { SettingKey } from "@/core/settings";

export interface SentReading {
  reader: string;
  marks: GivenMark[];
  measures: Measured[];
  note: string;
  readAt: string;
}

export interface SentCriterion {
  key: CriterionKey;
  short: string;
  question: string;
  answers: string[];
  weight: number;
  must: boolean;
}

export interface SentRun extends Run {
  setting: SettingKey;
  bands: Unit[];
  criteria: SentCriterion[];
  measure: Measure | null;
  readings: SentReading[];
  photos: Photo[];
}
