import { Alert, Button } from "antd";

/** An error of the API where its view would be, with its sentence and a way on. */
export function ProblemNotice({ problem, retry }: { problem: Error; retry?: () => void }) {
  return (
    <Alert
      type="error"
      showIcon
      title={problem.message}
      style={{ margin: 16 }}
      action={retry && <Button onClick={retry}>Try again</Button>}
    />
  );
}
