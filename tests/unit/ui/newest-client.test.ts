/** The newest wish wins: what a page asks of its worker while that is busy, slow, or breaks off. */
import { NewestClient } from "@/workers/newest-client";

interface Message {
  request: number;
  text: string;
}

class FakeWorker {
  static all: FakeWorker[] = [];
  onmessage: ((event: { data: Message }) => void) | null = null;
  onerror: (() => void) | null = null;
  asked: Message[] = [];
  isEnded = false;

  constructor() {
    FakeWorker.all.push(this);
  }

  postMessage(message: Message) {
    this.asked.push(message);
  }

  terminate() {
    this.isEnded = true;
  }

  answer() {
    this.onmessage?.({ data: this.asked[this.asked.length - 1] });
  }
}

class Client extends NewestClient<string, Message, Message> {
  readonly taken: string[] = [];

  constructor(readonly broken: string[] = []) {
    super(1000, (message) => broken.push(message));
  }

  protected startWorker() {
    return new FakeWorker() as unknown as Worker;
  }

  protected messageFor(text: string) {
    return { text };
  }

  protected receive(_: Message, input: string) {
    this.taken.push(input);
  }
}

const settled = () => Promise.resolve().then(() => Promise.resolve());
const newest = () => FakeWorker.all[FakeWorker.all.length - 1];

beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ["queueMicrotask"] });
  FakeWorker.all = [];
});
afterEach(() => jest.useRealTimers());

test("what was overtaken is never asked; the newest is answered", async () => {
  const client = new Client();
  for (const text of ["a", "b", "c"]) client.request(text);
  newest().answer();
  await settled();
  newest().answer();
  await settled();
  expect(client.taken).toEqual(["a", "c"]);
  expect(FakeWorker.all).toHaveLength(1);
});

test("work that drags on is given up for newer work, and its late error is nobody's", async () => {
  const client = new Client();
  client.request("slow");
  const [first] = FakeWorker.all;
  client.request("new");
  jest.advanceTimersByTime(1001);
  expect(first.isEnded).toBe(true);
  first.onerror?.();
  newest().answer();
  await settled();
  expect(client.taken).toEqual(["new"]);
  expect(client.broken).toEqual([]);
});

test("a worker that breaks off is begun anew once with the same work; then it is said", async () => {
  const client = new Client();
  client.request("work");
  FakeWorker.all[0].onerror?.();
  expect(client.broken).toEqual([]);
  expect(newest().asked.map(({ text }) => text)).toEqual(["work"]);
  newest().answer();
  await settled();
  expect(client.taken).toEqual(["work"]);
  client.request("again");
  newest().onerror?.();
  newest().onerror?.();
  expect(client.broken).toEqual(["The computing part of the page broke off. Reload the page."]);
});
