import { STUDIO_JSON_SCHEMA } from "@/core/model/studio-schema";

export const GET = (): Response =>
  Response.json(STUDIO_JSON_SCHEMA, { headers: { "content-type": "application/schema+json" } });
