import { Button, Result } from "antd";
import { Link, useRouteError } from "react-router";

/** Shown for an address that leads nowhere, and when a view breaks. */
export function ErrorPage() {
  const error = useRouteError();
  return (
    <main>
      <Result
        status="warning"
        title={error ? "This view could not be shown" : "There is nothing at this address"}
        subTitle={
          error instanceof Error ? error.message : "The link may be old. Your sites and drafts are all there."
        }
        extra={
          <Link to="/">
            <Button type="primary">Go to the sites</Button>
          </Link>
        }
      />
    </main>
  );
}
