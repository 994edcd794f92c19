export interface OwnProgram {
  address: string;
  port: number;
  pid: number;
  startMs: number;
  ended: Promise<number | null>;
  said(): string;
  ask(method: string, path: string, body?: unknown): Promise<{ status: number; body: unknown }>;
  kill(): Promise<void>;
  end(): Promise<number | null>;
}
export function freePort(): Promise<number>;
export function startProgram(data: string, options?: { port?: number; host?: string }): Promise<OwnProgram>;
export function good(answer: { status: number; body: unknown }): Record<string, unknown>;
export const plainPrinter: Record<string, unknown>;
export const plainSpool: Record<string, unknown>;
