import { InputListScreen } from "@/ui/inputs/input-list-screen";

export default function InputsPage() {
  return <InputListScreen />;
}
