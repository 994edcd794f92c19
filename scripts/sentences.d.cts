export interface Sentence {
  room: string;
  file: string;
  line: number;
  text: string;
}
export function allSentences(): Sentence[];
export function sentencesOf(file: string, text: string): { text: string; line: number }[];
export function stumbled(text: string): { words: string; instead: string } | null;
