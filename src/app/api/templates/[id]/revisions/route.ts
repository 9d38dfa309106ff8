import { HistoryQuery } from "@/contracts/requests";
import { json, readQuery, route } from "@/server/http/route";
import { historyOf } from "@/server/services/life";

export const GET = route(async ({ db, params, url }) =>
  json(await historyOf(db, params.id ?? "", readQuery(HistoryQuery, url, { numbers: ["before"] }))),
);
