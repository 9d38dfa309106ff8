import { SegmentedControl, Text } from "@mantine/core";
import type { CueNeighbour } from "@/core/planning/join-cues";

interface CuesFieldProps {
  /** Whose levels it would take; null where there is nothing to ask. */
  readonly like: CueNeighbour | null;
  readonly joins: boolean;
  readonly onJoins: (joins: boolean) => void;
}

/** Whether what is new is heard in the cues, and how: asked once, where there are cues. */
export const CuesField = ({ like, joins, onJoins }: CuesFieldProps) =>
  like && (
    <div>
      <Text size="sm" fw={500} mb={4}>
        In the cues
      </Text>
      <SegmentedControl
        aria-label="In the cues"
        size="sm"
        orientation="vertical"
        fullWidth
        value={joins ? "like" : "none"}
        onChange={(value) => onJoins(value === "like")}
        data={[
          { value: "like", label: like.says },
          { value: "none", label: "in none" },
        ]}
      />
    </div>
  );
