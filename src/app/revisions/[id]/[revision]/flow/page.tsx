import { FlowScreen } from "@/ui/flow/flow-screen";

export default function FlowPage() {
  return <FlowScreen />;
}
