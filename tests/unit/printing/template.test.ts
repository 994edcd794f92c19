import { fillTemplate, TemplateName, templateNames, TemplateValues, unknownNames } from "@/core/printing/template";

const values = Object.fromEntries(Object.keys(templateNames).map((name, i) => [name, i + 0.25])) as TemplateValues;

test("names are filled in with their own number of decimals", () => {
  const filled = fillTemplate(
    "M104 S{{nozzleFirst}}\n\nG0 X{{ bedCentreX }} Y{{bedCentreY}}\r\nM84",
    { ...values, nozzleFirst: 214.6, bedCentreX: 110 },
    "startLines",
  );
  expect(filled).toEqual({ ok: true, value: ["M104 S215", "G0 X110 Y4.25", "M84"] });
});

test("unknown names are refused with their line and what there is", () => {
  const refused = fillTemplate("G28\nM104 S{{hot}}", values, "startLines");
  expect(refused).toMatchObject({ ok: false, field: "startLines" });
  expect(!refused.ok && refused.message).toMatch(/line 2: there is no “{{hot}}”.*nozzleFirst/);
  expect(unknownNames("{{a}} {{tool}}\n{{toString}}")).toEqual([
    { name: "a", line: 1 },
    { name: "toString", line: 2 },
  ]);
});

test.each([
  ["{{nozzle\nFirst}}", "nozzle"],
  ["M104 S{{nozzleFirst", "nozzleFirst"],
  ["{{{{tool}}", ""],
  [`{{${" ".repeat(20_000)}`, ""],
  ["{{".repeat(10_000), "{{"],
])("brackets that do not close on their line are refused: %.20s", (text, name) => {
  expect(unknownNames(text)[0]).toMatchObject({ line: 1 });
  expect(unknownNames(text)[0].name.startsWith(name)).toBe(true);
  expect(fillTemplate(text, values, "startLines").ok).toBe(false);
});

test("every name says what it stands for", () => {
  for (const name of Object.keys(templateNames) as TemplateName[])
    expect(templateNames[name].says.length).toBeGreaterThan(8);
});
