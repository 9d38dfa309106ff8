import { describe, expect, it } from "vitest";
import { clientOf, isMeant, nameIn, namesOf, openTo, refusalOf } from "./gate.mjs";

const request = (changes = {}) => ({
  method: "GET",
  url: "/api/templates",
  headers: { host: "127.0.0.1:3000" },
  localAddress: "127.0.0.1",
  ...changes,
});
const status = (changes, names = []) => refusalOf(request(changes), names)?.status ?? 200;

describe("the door", () => {
  it.each([
    ["localhost:3000", 200],
    ["LOCALHOST", 200],
    ["127.0.0.1", 200],
    ["[::1]:3000", 200],
    ["192.168.7.20:3000", 200],
    ["192.168.7.21:3000", 421],
    ["evil.example", 421],
    ["evil.example:3000", 421],
    ["127.0.0.1.evil.example", 421],
    ["localhost.evil.example", 421],
    ["localhost:3000:80", 421],
    ["", 421],
    ["a b", 421],
    ["user@localhost", 421],
    [undefined, 421],
  ])("a request for %s is answered %d", (host, expected) =>
    expect(status({ headers: { host }, localAddress: "::ffff:192.168.7.20" })).toBe(expected),
  );

  it("knows the names it was told, in any case", () => {
    const names = namesOf({ WANDEL_NAMES: "Desk.Studio, wandel" }, "0.0.0.0");
    expect(names).toEqual(["desk.studio", "wandel"]);
    expect(isMeant("desk.studio:80", { names, localAddress: "10.0.0.1" })).toBe(true);
    expect(isMeant("other.studio", { names, localAddress: "10.0.0.1" })).toBe(false);
  });

  it.each([
    [{ rawHeaders: ["Host", "localhost", "host", "evil.example"] }, 400],
    [{ url: "/%ff" }, 400],
    [{ url: "/api/templates/%E0%A4%A" }, 400],
    [{ url: "//[" }, 400],
    [{ url: "*" }, 400],
    [{ method: "TRACE" }, 405],
    [{ method: "PUT" }, 405],
    [{ method: "POST" }, 200],
    [{ method: "POST", url: "/" }, 405],
    [{ method: "POST", url: "/apiary" }, 405],
    [{ method: "POST", headers: { host: "localhost", "content-length": "600000000" } }, 413],
    [{ url: "/templates/caf%C3%A9/inputs?x=%20" }, 200],
  ])("%j is answered %d", (changes, expected) => expect(status(changes)).toBe(expected));

  it("says what it refuses and what to do", () => {
    expect(refusalOf(request({ headers: { host: "evil.example" } }), ["desk"]).detail).toMatch(
      /\(desk\).*WANDEL_NAMES/,
    );
  });

  it("says who may do what where it listens beyond its own machine, and nothing where it does not", () => {
    expect(["127.0.0.1", "localhost", "::1"].map(openTo)).toEqual([null, null, null]);
    expect(openTo("0.0.0.0")).toMatch(/WANDEL_HOST is 0\.0\.0\.0.*may read, change and delete every template/);
  });

  it("tells who asks apart by address and browser, without naming either", () => {
    expect(clientOf("10.0.0.1", "a browser")).not.toBe(clientOf("10.0.0.2", "a browser"));
    expect(clientOf("10.0.0.1", "a browser")).toMatch(/^[\w-]{16}$/);
    expect(clientOf(undefined, undefined)).toBe(clientOf("", ""));
  });

  it.each([
    ["[fe80::1]", "fe80::1"],
    ["x".repeat(254), null],
    ["[]", null],
  ])("the name in %s is %s", (host, name) => expect(nameIn(host)).toBe(name));
});
