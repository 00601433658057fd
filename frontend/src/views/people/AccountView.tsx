import { useMe } from "../../api/me";
import { LoadingView } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { OwnAccount } from "./OwnAccount";
import { People } from "./People";
import styles from "./accountView.module.css";
import { Tokens } from "./Tokens";

/** One's own account and tokens; for whoever administers, those of all. */
export function AccountView() {
  const { data: me, error, refetch } = useMe();
  if (error) return <ProblemNotice problem={error} retry={() => void refetch()} />;
  if (!me) return <LoadingView what="Opening the account" />;
  return (
    <main className={styles.page}>
      <title>{me.has_account ? "Account · Bexi" : "People · Bexi"}</title>
      <h1>{me.has_account ? me.name : "People"}</h1>
      {me.has_account ? (
        <>
          <OwnAccount me={me} />
          <Tokens me={me} />
        </>
      ) : (
        <p className={styles.said}>
          Bexi is yours alone: nobody has an account, and it answers this machine only. Add an account to let
          others in. From then on everybody signs in, you too, and each sees who installed what.
        </p>
      )}
      {me.role === "administers" && <People isFirst={!me.has_account} />}
    </main>
  );
}
