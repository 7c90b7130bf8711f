import { Component, type ReactNode } from "react";
import { Notice } from "../ui/Notice";

/** What is shown when a screen itself fails: the bench server was renewed, or we erred. */
export class Boundary extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <div style={{ padding: 48, maxWidth: 620 }}>
        <Notice
          text="This screen could not be shown. What was kept on the bench server is safe. Load the page again; if that does not help, the bench server may be away."
          action={
            <button type="button" className="linkish" onClick={() => window.location.reload()}>
              Load again
            </button>
          }
        />
      </div>
    );
  }
}
