import { NewerQuery } from "@/contracts/requests";
import { json, readQuery, route } from "@/server/http/route";
import { newerThan } from "@/server/services/revisions";

export const GET = route(async ({ db, params, url }) => {
  const { since } = readQuery(NewerQuery, url, { numbers: ["since"] });
  return json({ newer: await newerThan(db, params.id ?? "", since) });
});
