import styles from "./loading.module.css";

export function Loading({ what }: { what: string }) {
  return (
    <div role="status" className={styles.loading}>
      <i aria-hidden />
      <span>{what}</span>
    </div>
  );
}
