/** Two people change one record: the laws that stand with `merge`, and the cases they were made for. */
import fc from "fast-check";
import { changedFields, merge } from "@/core/merge";
import "./helpers/seed";

interface Sheet {
  name: string;
  heightMm: number;
  bands: number[];
}
const before: Sheet = { name: "Tower", heightMm: 10, bands: [220, 215] };

test("what each has changed by himself is in the merged record", () => {
  const met = merge(before, { ...before, name: "Mine" }, { ...before, heightMm: 12 });
  expect(met).toEqual({
    merged: { name: "Mine", heightMm: 12, bands: [220, 215] },
    changes: { name: "Mine" },
    conflicts: [],
  });
});

test("what both have changed to the same is no conflict, and to different things it is, with theirs in the record", () => {
  expect(merge(before, { ...before, bands: [1] }, { ...before, bands: [1] }).conflicts).toEqual([]);
  const met = merge(before, { ...before, name: "Mine", heightMm: 8 }, { ...before, name: "Theirs" });
  expect(met).toEqual({
    merged: { ...before, name: "Theirs", heightMm: 8 },
    changes: { heightMm: 8 },
    conflicts: ["name"],
  });
});

const sheets = fc.record({
  name: fc.constantFrom("a", "b", "c"),
  heightMm: fc.nat(3),
  bands: fc.array(fc.nat(2), { maxLength: 2 }),
});

test("laws: nothing of mine gives theirs, nothing of theirs gives mine, untouched fields stay, and order does not matter without conflicts", () => {
  fc.assert(
    fc.property(sheets, sheets, sheets, (base, mine, theirs) => {
      expect(merge(base, base, theirs).merged).toEqual(theirs);
      expect(merge(base, mine, base).merged).toEqual(mine);
      const there = merge(base, mine, theirs);
      for (const key of Object.keys(base) as (keyof Sheet)[]) {
        if (!(key in changedFields(base, mine))) expect(there.merged[key]).toEqual(theirs[key]);
      }
      if (there.conflicts.length === 0) expect(merge(base, theirs, mine).merged).toEqual(there.merged);
    }),
  );
});
