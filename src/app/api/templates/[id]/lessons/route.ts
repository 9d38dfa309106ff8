import { jsonText, route } from "@/server/http/route";
import { lessonsAnswer } from "@/server/services/sessions";

export const GET = route(async ({ db, params, signal }) => jsonText(await lessonsAnswer(db, params.id ?? "", signal)));
