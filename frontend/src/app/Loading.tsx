import styles from "./loading.module.css";

export function Loading({ what }: { what: string }) {
  return (
    <div role="status" className={styles.loading}>
      <i aria-hidden />
      <span>{what}</span>
    </div>
  );
}

/** Stands where a whole view will: the page has its main part from the first moment. */
export const LoadingView = ({ what }: { what: string }) => (
  <main aria-busy>
    <Loading what={what} />
  </main>
);
