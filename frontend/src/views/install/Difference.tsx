import styles from "./difference.module.css";

/** The lines of a unified difference; added and removed ones are told apart by sign and ground. */
export function Difference({ lines }: { lines: string[] }) {
  return (
    <pre className={styles.difference} tabIndex={0}>
      {lines.map((line, index) => (
        <span key={index} data-kind={line[0]}>
          {line}
          {"\n"}
        </span>
      ))}
    </pre>
  );
}
