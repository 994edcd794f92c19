/** A program of its own on data of its own, to be put under load or killed: for `npm run soak`, `npm run kills` and the tests. */
const { spawn } = require("node:child_process");
const { createServer } = require("node:net");
const { join } = require("node:path");

const root = join(__dirname, "..");

/** A port that nobody listens on. */
function freePort() {
  return new Promise((resolve) => {
    const server = createServer();
    server.listen(0, "127.0.0.1", () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** Programs that run. Whoever started one may fail: left behind, it would hold its pipes, and whoever waits for them. */
const alive = new Set();
process.once("exit", () => alive.forEach((pid) => process.kill(-pid, "SIGKILL")));

/** Starts the built program; gives how to ask it and how to end it once its interface answers, and how long that took. */
async function startProgram(data, { port, host = "127.0.0.1" } = {}) {
  const at = port ?? (await freePort());
  const startedMs = Date.now();
  const child = spawn(process.execPath, [join(root, ".build", "server.cjs")], {
    cwd: root,
    env: {
      ...process.env,
      NODE_ENV: "production",
      CUCHARA_DATA: data,
      HOST: host,
      PORT: String(at),
      CUCHARA_QUIET: "1",
    },
    stdio: ["ignore", "pipe", "pipe"],
    detached: true,
  });
  let said = "";
  for (const stream of [child.stdout, child.stderr]) stream.on("data", (chunk) => (said += chunk));
  const ended = new Promise((resolve) => child.once("exit", (code) => resolve(code)));
  const address = `http://127.0.0.1:${at}`;
  let isEnded = false;
  void ended.then(() => (isEnded = true));
  alive.add(child.pid);
  void ended.then(() => alive.delete(child.pid));
  for (;;) {
    // Well or not: once it says how it is, it is there.
    const up = await fetch(`${address}/api/health`)
      .then((response) => response.json())
      .then(
        ({ status }) => status !== undefined,
        () => false,
      );
    if (up || isEnded) break;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  const ask = async (method, path, body) => {
    const isBytes = typeof body === "string" || body instanceof Uint8Array;
    const response = await fetch(`${address}${path}`, {
      method,
      body: body === undefined ? undefined : isBytes ? body : JSON.stringify(body),
      headers: body === undefined ? {} : { "Content-Type": isBytes ? "text/plain" : "application/json" },
    });
    return { status: response.status, body: await response.json() };
  };
  return {
    address,
    port: at,
    pid: child.pid,
    startMs: Date.now() - startedMs,
    ended,
    said: () => said,
    ask,
    /** Kills it and whatever it started, at once. */
    async kill() {
      if (!isEnded) process.kill(-child.pid, "SIGKILL");
      await ended;
    },
    /** Asks it to end, and waits until it has. */
    async end() {
      if (!isEnded) child.kill("SIGTERM");
      return ended;
    },
  };
}

/** The answer's body; throws what it says if the request failed. */
function good({ status, body }) {
  if (status >= 200 && status < 300) return body;
  throw new Error(`${status}: ${JSON.stringify(body)}`);
}

/** A printer that any test may use. */
const plainPrinter = {
  name: "P",
  bedWidthMm: 220,
  bedDepthMm: 220,
  buildHeightMm: 250,
  startLines: "G28\nM104 S{{nozzleFirst}}\nM109 S{{nozzleFirst}}",
  endLines: "M104 S0\nM84",
};

const plainSpool = { name: "S", material: "PLA" };

module.exports = { freePort, startProgram, good, plainPrinter, plainSpool };
