/** Undo, and what somebody else changes meanwhile. */
import { createHistory } from "@/ui/common/history";
import { expectOwn, isOwn } from "@/ui/common/own-changes";

interface Doc {
  name: string;
  heightMm: number;
}
const begin = () => createHistory<Doc>({ name: "a", heightMm: 1 });

test("edits are steps of undo; those of one gesture are one step", () => {
  const store = begin();
  const { edit, undo, redo } = store.getState();
  edit({ heightMm: 2 }, "drag 1");
  edit({ heightMm: 3 }, "drag 1");
  edit({ name: "b" }, "typing");
  undo();
  expect(store.getState().now).toEqual({ name: "a", heightMm: 3 });
  undo();
  expect(store.getState().now).toEqual({ name: "a", heightMm: 1 });
  redo();
  expect(store.getState().now).toEqual({ name: "a", heightMm: 3 });
});

test("what somebody else has changed is not taken back by undo, nor put back by redo", () => {
  const store = begin();
  store.getState().edit({ heightMm: 2 }, "one");
  store.getState().takeOver({ name: "theirs" });
  store.getState().undo();
  expect(store.getState().now).toEqual({ name: "theirs", heightMm: 1 });
  store.getState().redo();
  expect(store.getState().now).toEqual({ name: "theirs", heightMm: 2 });
});

test("a change of this page's own is known as such once", () => {
  expectOwn("trials", 4);
  expect([isOwn("trials", 4), isOwn("trials", 4), isOwn("files", 4)]).toEqual([true, false, false]);
});
