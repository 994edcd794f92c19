/**
 * What the program's modules were compiled to is kept from its build on: a third of a start was compiling the same thousand modules again.
 * Only what is loaded after `useCompiled` can profit. A module whose text is another, a file that is missing, or another Node.js: the
 * module is compiled as ever.
 */
import { createHash } from "node:crypto";
import { existsSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import Module, { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { Script } from "node:vm";

/** A module as the loader knows it. `_compile` is no documented interface, yet what tools that change modules as they load have long used. */
interface LoadedModule {
  exports: object;
  require(id: string): unknown;
}
interface Loader {
  _compile(this: LoadedModule, text: string, path: string, format?: string): unknown;
}
interface ModuleClass {
  prototype: Loader;
  wrap(text: string): string;
  _extensions: object;
  _cache: object;
}

type Wrapped = (
  this: object,
  exports: object,
  require: object,
  module: LoadedModule,
  path: string,
  folder: string,
) => unknown;

/** Kept code has forgotten who loads what it asks for while it runs: such modules are compiled as ever. */
const LOADS_WHILE_IT_RUNS = /^(?!\s*(?:\/\/|\*)).*(?<![.\w$])import\s*\(/m;

const keptAt = join(__dirname, "compiled.bin");
const loader = Module as unknown as ModuleClass;
/** Compiled while what is compiled is to be kept, by their names. */
const scripts = new Map<string, Script>();

/** Name of a module's text at its place: another text is another module. */
const nameOf = (text: string, path: string) => `${path} ${createHash("sha1").update(text).digest("base64")}`;

/** File: length of the index (32 bits, little end first), the index as JSON ([name, bytes] each), then the code, one behind the other. */
function read(): Map<string, Buffer> {
  const kept = new Map<string, Buffer>();
  if (!existsSync(keptAt)) return kept;
  try {
    const file = readFileSync(keptAt);
    let at = 4 + file.readUInt32LE(0);
    for (const [name, length] of JSON.parse(file.toString("utf8", 4, at)) as [string, number][]) {
      kept.set(name, file.subarray(at, at + length));
      at += length;
    }
  } catch {
    kept.clear();
  }
  return kept;
}

/** Keeps what has been loaded and run. */
function keep(): void {
  const code = [...scripts].map(([name, script]) => [name, script.createCachedData()] as const);
  const index = Buffer.from(JSON.stringify(code.map(([name, bytes]) => [name, bytes.length])));
  const length = Buffer.alloc(4);
  length.writeUInt32LE(index.length);
  writeFileSync(`${keptAt}.new`, Buffer.concat([length, index, ...code.map(([, bytes]) => bytes)]));
  renameSync(`${keptAt}.new`, keptAt);
}

/** @param isKeeping at the end of a build: what is loaded until this process ends is kept */
export function useCompiled(isKeeping: boolean): void {
  if (isKeeping) process.once("exit", keep);
  const kept = isKeeping ? new Map<string, Buffer>() : read();
  if (!isKeeping && kept.size === 0) return;
  const compile = loader.prototype._compile;
  loader.prototype._compile = function (text, path, format) {
    const name = nameOf(text, path);
    const cachedData = kept.get(name);
    const isCompiledAsEver = isKeeping ? LOADS_WHILE_IT_RUNS.test(text) : cachedData === undefined;
    if (isCompiledAsEver) return compile.call(this, text, path, format);
    let script: Script;
    try {
      script = new Script(loader.wrap(text), { filename: path, cachedData });
    } catch {
      // A module of the newer kind, or one that begins in a way of its own: the loader knows how.
      return compile.call(this, text, path, format);
    }
    if (isKeeping) scripts.set(name, script);
    const { resolve } = createRequire(path);
    const require = Object.assign((id: string) => this.require(id), {
      resolve,
      main: process.mainModule,
      extensions: loader._extensions,
      cache: loader._cache,
    });
    return (script.runInThisContext() as Wrapped).call(this.exports, this.exports, require, this, path, dirname(path));
  };
}
