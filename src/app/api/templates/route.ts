import { CreateTemplateRequest, ListQuery } from "@/contracts/requests";
import { parse } from "@/contracts/validate";
import { json, readJson, readQuery, route } from "@/server/http/route";
import { accept } from "@/server/services/accept";
import { createTemplate, listTemplates } from "@/server/services/library";

export const GET = route(async ({ db, url }) => json(await listTemplates(db, readQuery(ListQuery, url))));

export const POST = route(async ({ db, request }) => {
  const made = await createTemplate(db, accept(parse(CreateTemplateRequest, await readJson(request))));
  return json(made, { status: 201, headers: { location: `/api/templates/${made.document.id}` } });
});
