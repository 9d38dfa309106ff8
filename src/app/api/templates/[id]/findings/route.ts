import { jsonText, route } from "@/server/http/route";
import { templateFindings } from "@/server/services/library";

export const GET = route(async ({ db, params, signal }) =>
  jsonText(await templateFindings(db, params.id ?? "", signal)),
);
