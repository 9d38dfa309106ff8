import { newerRoute } from "@/server/http/document-routes";
import { rigStore } from "@/server/services/rigs";

export const GET = newerRoute(rigStore);
