/** A date of a session as it is said: "Sunday 29 November", with the year where it is another one. */
export const sayDay = (date: string, now = new Date()): string => {
  const [year = 0, month = 1, day = 1] = date.split("-").map(Number);
  const at = new Date(Date.UTC(year, month - 1, day));
  return new Intl.DateTimeFormat("en-GB", {
    weekday: "long",
    day: "numeric",
    month: "long",
    timeZone: "UTC",
    ...(year === now.getFullYear() ? {} : { year: "numeric" }),
  })
    .format(at)
    .replace(",", "");
};

/** The same, short: "29 Nov". */
export const sayDayShort = (date: string): string => {
  const [year = 0, month = 1, day = 1] = date.split("-").map(Number);
  return new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", timeZone: "UTC" }).format(
    new Date(Date.UTC(year, month - 1, day)),
  );
};

/** Today where the reader is, as ISO 8601. */
export const today = (now = new Date()): string =>
  [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((part) => String(part).padStart(2, "0")).join("-");
