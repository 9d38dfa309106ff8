import { attachment } from "@/server/http/document-routes";
import { route } from "@/server/http/route";
import { exportRig } from "@/server/services/exports";

export const GET = route(async ({ db, params }) => attachment(await exportRig(db, params.id ?? "")));
