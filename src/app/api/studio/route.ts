import { stateRoute } from "@/server/http/document-routes";
import { studioStore } from "@/server/services/studio";

export const GET = stateRoute(studioStore);
