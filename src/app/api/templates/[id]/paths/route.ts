import { PathsQuery } from "@/contracts/requests";
import { jsonText, readQuery, route } from "@/server/http/route";
import { templatePaths } from "@/server/services/library";

export const GET = route(async ({ db, params, url, signal }) =>
  jsonText(await templatePaths(db, params.id ?? "", { ...readQuery(PathsQuery, url), signal })),
);
