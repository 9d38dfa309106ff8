import { jsonText, route } from "@/server/http/route";
import { keptChainsText } from "@/server/services/chains";

export const GET = route(async ({ db, signal }) => jsonText(await keptChainsText(db, signal)));
