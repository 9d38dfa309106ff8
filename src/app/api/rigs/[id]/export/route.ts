import { RawQuery } from "@/contracts/requests";
import { attachment } from "@/server/http/document-routes";
import { readQuery, route } from "@/server/http/route";
import { exportRig } from "@/server/services/exports";

export const GET = route(async ({ db, params, url }) =>
  attachment(await exportRig(db, params.id ?? "", readQuery(RawQuery, url).format)),
);
