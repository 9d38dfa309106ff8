import type { ChannelId } from "@/core/model/ids";
import { ChainScreen } from "@/ui/chain/chain-screen";

interface Props {
  readonly params: Promise<{ readonly channelId: string }>;
}

export default async function ChainPage({ params }: Props) {
  const { channelId } = await params;
  return <ChainScreen key={channelId} channelId={decodeURIComponent(channelId) as ChannelId} />;
}
