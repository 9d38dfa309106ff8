import { PreviewQuery } from "@/contracts/requests";
import { readUpload } from "@/server/http/read-upload";
import { jsonText, readQuery, route } from "@/server/http/route";
import { importTemplate, previewImport } from "@/server/services/imports";

export const POST = route(async ({ db, request, url, signal }) => {
  const { preview } = readQuery(PreviewQuery, url);
  const { upload, fields } = await readUpload(request);
  if (preview === "true") return jsonText(await previewImport(db, upload, fields, signal));
  const made = await importTemplate(db, upload, fields, signal);
  return jsonText(`{"template":${JSON.stringify(made.template)},"report":${made.report}}`, {
    status: 201,
    headers: { location: `/api/templates/${made.template.id}` },
  });
});
