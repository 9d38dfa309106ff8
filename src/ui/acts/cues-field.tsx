import { SegmentedControl, Text } from "@mantine/core";
import type { CueNeighbour } from "@/core/planning/join-cues";

interface CuesFieldProps {
  /** Whose levels it would take; null where there is nothing to ask. */
  readonly like: CueNeighbour | null;
  readonly joins: boolean;
  readonly onJoins: (joins: boolean) => void;
  readonly compact?: boolean;
}

/** Whether what is new is heard in the cues, and how: asked once, where there are cues. */
export const CuesField = ({ like, joins, onJoins, compact = false }: CuesFieldProps) =>
  like && (
    <div>
      {!compact && (
        <Text size="sm" fw={500} mb={4}>
          In the cues
        </Text>
      )}
      <SegmentedControl
        aria-label="In the cues"
        size={compact ? "xs" : "sm"}
        orientation={compact ? "horizontal" : "vertical"}
        fullWidth={!compact}
        value={joins ? "like" : "none"}
        onChange={(value) => onJoins(value === "like")}
        data={[
          { value: "like", label: compact ? `in cues ${like.says}` : like.says },
          { value: "none", label: compact ? "in no cue" : "in none" },
        ]}
      />
    </div>
  );
