import { newerRoute } from "@/server/http/document-routes";
import { templateStore } from "@/server/services/revisions";

export const GET = newerRoute(templateStore);
