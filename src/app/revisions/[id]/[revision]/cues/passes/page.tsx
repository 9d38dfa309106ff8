import { PassesScreen } from "@/ui/cues/passes-screen";

export default function PassesPage() {
  return <PassesScreen />;
}
