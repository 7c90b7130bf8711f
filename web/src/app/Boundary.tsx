import { Box, Button } from "@mui/material";
import { Component, type ReactNode } from "react";
import { Notice } from "../ui/Notice";

/** What is shown when a screen itself fails: the shop server was renewed, or we erred. */
export class Boundary extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <Box sx={{ padding: 48, maxWidth: 620 }}>
        <Notice
          text="This screen could not be shown. What was kept on the shop server is safe. Load the page again; if that does not help, the server may be away."
          action={
            <Button variant="link" onClick={() => window.location.reload()}>
              Load again
            </Button>
          }
        />
      </Box>
    );
  }
}
