import { say } from "../lib/shell.mjs";

/** Sends a file to be taken as a template. */
export const send = (service, { name, text }, preview) => {
  const form = new FormData();
  form.set("file", new File([text], name));
  form.set("rigId", "whole-mill");
  return service.call("POST", `/api/templates/import${preview ? "?preview=true" : ""}`, form, { timeoutMs: 60_000 });
};

/** Whether everything that was to be measured happened: what did not is told, and no figure stands for it. */
export const happened = (what, status, expected = [200]) => {
  if (expected.includes(status)) return true;
  say(`NOT MEASURED: ${what} was answered ${status || "not at all"}, and ${expected.join(" or ")} was expected`);
  return false;
};
