import { refuseForeign } from "@/server/front/guard";

const ask = (host: string | null, origin: string | null = null, site: string | null = null, own?: string) =>
  refuseForeign({ host, origin, site }, own);

test.each([
  ["127.0.0.1:4747", null, null],
  ["localhost:4747", "http://localhost:4747", "same-origin"],
  ["[::1]:4747", "http://[::1]:4747", null],
  ["127.0.0.1:4747", null, "none"],
])("own requests pass: %s %s", (host, origin, site) => {
  expect(ask(host, origin, site)).toBeNull();
});

test.each([
  ["evil.example", null, null, /does not answer to the name/],
  ["evil.example:4747", "http://evil.example:4747", null, /does not answer/],
  ["127.0.0.1.evil.example", null, null, /does not answer/],
  ["127.0.0.1:4747", "http://evil.example", null, /other sites/],
  ["127.0.0.1:4747", "http://127.0.0.1:9999", null, /other sites/],
  ["127.0.0.1:4747", "null", null, /other sites/],
  ["127.0.0.1:4747", "not a url", null, /other sites/],
  ["127.0.0.1:4747", null, "cross-site", /other sites/],
  // Sec-Fetch-Site (W3C Fetch Metadata): another port of this machine, an <img> of somebody else's page.
  ["127.0.0.1:4747", null, "same-site", /other sites/],
  [null, null, null, /which host/],
  ["127.0.0.1:4747", "https://127.0.0.1:4747", null, /other sites/],
  ["127.0.0.1:4747", "ftp://127.0.0.1:4747", null, /other sites/],
  ["127.0.0.1:4747", "http://someone@127.0.0.1:4747", null, /other sites/],
  ["127.0.0.1:4747", "http://127.0.0.1:4747/page", null, /other sites/],
])("foreign ones do not: %s %s %s", (host, origin, site, sentence) => {
  expect(ask(host, origin, site)).toMatch(sentence);
});

test("a chosen host name is answered to, and any address when listening everywhere", () => {
  expect(ask("workbench.lan:4747", null, null, "workbench.lan")).toBeNull();
  expect(ask("192.168.1.20:4747", null, null, "0.0.0.0")).toBeNull();
  expect(ask("evil.example", null, null, "0.0.0.0")).toMatch(/does not answer/);
  expect(ask("192.168.1.20:4747")).toMatch(/does not answer/);
});
