import { UsesQuery } from "@/contracts/requests";
import { json, readQuery, route } from "@/server/http/route";
import { templatesWithColour } from "@/server/services/studio";

export const GET = route(async ({ db, url }) => json(await templatesWithColour(db, readQuery(UsesQuery, url).colour)));
