import { CuesScreen } from "@/ui/cues/cues-screen";

export default function CuesPage() {
  return <CuesScreen />;
}
