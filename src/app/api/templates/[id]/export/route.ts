import { ExportQuery } from "@/contracts/requests";
import { readQuery, route } from "@/server/http/route";
import { exportTemplate } from "@/server/services/exports";

export const GET = route(async ({ db, params, url }) => {
  const { format } = readQuery(ExportQuery, url);
  const file = await exportTemplate(db, params.id ?? "", format);
  const plain = file.fileName.replace(/[^\x20-\x7e]|["\\]/g, "_");
  const disposition = `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(file.fileName)}`;
  return new Response(file.body as BodyInit, { headers: { "content-type": file.contentType, "content-disposition": disposition, "cache-control": "no-store" } });
});
