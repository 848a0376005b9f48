import { VolumeX } from "lucide-react";
import { hearAll } from "../state/group-view";
import { useView } from "../state/view";
import { Button } from "../widgets/Button";

/** Tells at every station that groups or microphones are muted or heard alone, and lets all be heard again. */
export function PartHeard() {
  const muted = useView((v) => v.muted.size);
  const alone = useView((v) => v.alone.size);
  if (muted + alone === 0) return null;
  return (
    <Button
      look="warning"
      className="h-6 px-1.5"
      hint={`${alone > 0 ? "Only what is soloed sounds" : "What is muted in the outline of Map doesn’t sound"}; nothing of it is in the instrument. Press to hear all again`}
      onClick={hearAll}
    >
      <VolumeX size={13} aria-hidden /> {alone > 0 ? `${alone} soloed` : `${muted} muted`}
    </Button>
  );
}
