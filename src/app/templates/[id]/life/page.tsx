import { LifeScreen } from "@/ui/life/life-screen";

export default function LifePage() {
  return <LifeScreen />;
}
