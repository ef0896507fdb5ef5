// A part of the program that is loaded when it is needed; where that fails, as after an upgrade, the page has to be loaded again.
import { Alert, Button } from "antd";
import { Component, type ReactNode, Suspense } from "react";
import { Dialog } from "./Dialog";
import { Loading } from "./states";
import { SAY } from "./wording";

type Props = {
  children: ReactNode;
  /** Closes what is loaded, where that is a dialog. */
  onClose?: () => void;
};

export class Later extends Component<Props, { error: Error | null }> {
  override state = { error: null as Error | null };

  static getDerivedStateFromError(error: Error): { error: Error } {
    return { error };
  }

  override render(): ReactNode {
    const { children, onClose } = this.props;
    const { error } = this.state;
    if (!error) return <Suspense fallback={onClose ? null : <Loading />}>{children}</Suspense>;
    if (!onClose)
      return (
        <main className="main">
          <Broken error={error} />
        </main>
      );
    return (
      <Dialog title="This cannot be opened" onClose={onClose}>
        <Broken error={error} />
        <Button onClick={onClose}>{SAY.close}</Button>
      </Dialog>
    );
  }
}

// how browsers say that a module could not be had: Chromium, Firefox, Safari, Vite
const UNLOADED = /dynamically imported module|module script|preload/i;

function Broken(props: { error: Error }): ReactNode {
  const unloaded = UNLOADED.test(props.error.message);
  return (
    <Alert
      className="failed"
      type="error"
      title={unloaded ? "This part of Waka could not be loaded" : "Something in this page went wrong"}
      description={
        unloaded
          ? "Waka was probably renewed since you opened the page, or the connection is lost. What you typed on slips and lines is kept."
          : `What you typed on slips and lines is kept. If it stays so, tell your administrator: ${props.error.message}`
      }
      action={<Button onClick={() => window.location.reload()}>Load the page again</Button>}
    />
  );
}
