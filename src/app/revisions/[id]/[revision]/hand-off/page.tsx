import { HandOffScreen } from "@/ui/handoff/hand-off-screen";

export default function HandOffPage() {
  return <HandOffScreen />;
}
