import { ExportQuery } from "@/contracts/requests";
import { attachment } from "@/server/http/document-routes";
import { readQuery, route } from "@/server/http/route";
import { exportTemplate } from "@/server/services/exports";

export const GET = route(async ({ db, params, url, signal }) =>
  attachment(await exportTemplate(db, params.id ?? "", readQuery(ExportQuery, url).format, signal)),
);
