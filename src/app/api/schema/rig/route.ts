import { RIG_JSON_SCHEMA } from "@/core/model/rig-schema";

export const GET = (): Response =>
  Response.json(RIG_JSON_SCHEMA, { headers: { "content-type": "application/schema+json" } });
