import { readUpload } from "@/server/http/read-upload";
import { json, route } from "@/server/http/route";
import { importRig } from "@/server/services/rigs";

export const POST = route(async ({ db, request, signal }) => {
  const { upload, fields } = await readUpload(request);
  const made = await importRig(db, upload.bytes, { key: fields.key, signal });
  return json(made, { status: 201, headers: { location: `/api/rigs/${made.document.id}` } });
});
