import { readUpload } from "@/server/http/read-upload";
import { json, route } from "@/server/http/route";
import { importTemplate, previewImport } from "@/server/services/imports";

export const POST = route(async ({ db, request, url }) => {
  const { upload, fields } = await readUpload(request);
  if (url.searchParams.get("preview") === "true") return json(await previewImport(db, upload, fields));
  const made = await importTemplate(db, upload, fields);
  return json(made, { status: 201, headers: { location: `/api/templates/${made.template.id}` } });
});
