import { LevelsQuery } from "@/contracts/requests";
import { jsonText, readQuery, route } from "@/server/http/route";
import { templateLevels } from "@/server/services/library";

export const GET = route(async ({ db, params, url, signal }) =>
  jsonText(await templateLevels(db, params.id ?? "", { ...readQuery(LevelsQuery, url), signal })),
);
