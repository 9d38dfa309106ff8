import { jsonText, route } from "@/server/http/route";
import { templateLevels } from "@/server/services/library";

export const GET = route(async ({ db, params, signal }) => jsonText(await templateLevels(db, params.id ?? "", signal)));
