import { DelayScreen } from "@/ui/delay/delay-screen";

export default function DelayPage() {
  return <DelayScreen />;
}
