import { jsonText, route } from "@/server/http/route";
import { templateFlow } from "@/server/services/library";

export const GET = route(async ({ db, params, signal }) => jsonText(await templateFlow(db, params.id ?? "", signal)));
