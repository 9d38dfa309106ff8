import { openApi } from "@/server/http/openapi";

export const GET = (): Response => Response.json(openApi());
