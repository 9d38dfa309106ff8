import { newerRoute } from "@/server/http/document-routes";
import { templateStore } from "@/server/services/templates";

export const GET = newerRoute(templateStore);
