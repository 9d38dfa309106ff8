import { json, route } from "@/server/http/route";
import { listRigs } from "@/server/services/rigs";

export const GET = route(async ({ db }) => json(await listRigs(db)));
