import { CompareScreen } from "@/ui/life/compare-screen";

export default function ComparePage() {
  return <CompareScreen />;
}
