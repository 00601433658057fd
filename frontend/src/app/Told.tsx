import { useProcesses } from "../api/processes";
import { useSaid } from "./ears";
import styles from "./shell.module.css";

/** What is told on every view. */
export const Told = () => (
  <>
    <Processes />
    <Ears />
  </>
);

/** What is heard by whoever does not see it. */
const Ears = () => (
  <div role="log" aria-live="polite" aria-label="What happened" className="unseen">
    {useSaid().map(({ number, sentence }) => (
      <p key={number}>{sentence}</p>
    ))}
  </div>
);

/** Says that a process of Bexi's ended, and when it starts again. */
function Processes() {
  const told = useProcesses().data?.told;
  return (
    told && (
      <p role="status" className={styles.ended}>
        {told}
      </p>
    )
  );
}
