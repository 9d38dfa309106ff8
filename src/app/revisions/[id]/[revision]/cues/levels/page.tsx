import { LevelsScreen } from "@/ui/cues/levels-screen";

export default function LevelsPage() {
  return <LevelsScreen />;
}
