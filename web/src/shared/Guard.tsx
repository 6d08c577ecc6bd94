import Box from "@mui/material/Box";
import { Component, type ReactNode } from "react";

import { ink } from "../app/theme";

interface Props {
  /** what is drawn: with another one it is tried again */
  of: readonly unknown[];
  children: ReactNode;
}

interface State {
  broken: boolean;
  of: readonly unknown[];
}

/** Keeps a fault of one part of the page from emptying all of it; React asks for a class here. */
export class Guard extends Component<Props, State> {
  override state: State = { broken: false, of: [] };

  static getDerivedStateFromError() {
    return { broken: true };
  }

  static getDerivedStateFromProps({ of }: Props, { of: before }: State): State | null {
    return of.every((one, index) => one === before[index]) ? null : { broken: false, of };
  }

  override render() {
    if (!this.state.broken) return this.props.children;
    return (
      <Box role="alert" sx={{ p: 4, bgcolor: ink("paper") }}>
        Leadsman met a fault of its own and cannot draw this. Your plan is kept: undo the last step, open
        another view, or save the plan as a file.
      </Box>
    );
  }
}
