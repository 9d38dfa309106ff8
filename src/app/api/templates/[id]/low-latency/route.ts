import { jsonText, route } from "@/server/http/route";
import { templateLowLatency } from "@/server/services/library";

export const GET = route(async ({ db, params, signal }) =>
  jsonText(await templateLowLatency(db, params.id ?? "", signal)),
);
