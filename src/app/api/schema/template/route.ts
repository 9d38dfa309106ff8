import { TEMPLATE_JSON_SCHEMA } from "@/core/model/template-schema";

export const GET = (): Response =>
  Response.json(TEMPLATE_JSON_SCHEMA, { headers: { "content-type": "application/schema+json" } });
