import { Component, type ErrorInfo, type ReactNode } from "react";
import { download } from "./download";

type Props = {
  /** What stands here, as a person calls it: it is named where it cannot be drawn. */
  name: string;
  children: ReactNode;
  /** A new value is another chance, such as the revision of a job. */
  again?: unknown;
  className?: string;
  /** What goes on in place of it, such as the way to the next task. */
  instead?: ReactNode;
};
type State = { error: Error | null; stack: string; again: unknown; pressed: boolean };

/** A piece of a screen that fails alone: what it shows could not be drawn, the rest of the page goes on. */
export class Region extends Component<Props, State> {
  override state: State = { error: null, stack: "", again: this.props.again, pressed: false };

  static getDerivedStateFromError(error: unknown): Partial<State> {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  static getDerivedStateFromProps(props: Props, state: State): Partial<State> | null {
    // Drawn again between press and release, a button would be another one, and the click lost.
    if (state.pressed || Object.is(props.again, state.again)) return null;
    return { error: null, again: props.again };
  }

  override componentDidCatch(_: Error, info: ErrorInfo) {
    this.setState({ stack: info.componentStack ?? "" });
  }

  private readonly save = () => {
    const { error, stack } = this.state;
    const report = {
      region: this.props.name,
      reason: String(error),
      stack: error?.stack ?? "",
      components: stack,
      address: window.location.pathname + window.location.search,
      browser: navigator.userAgent,
      at: new Date().toISOString(),
    };
    download(`evtro-fault-${slug(this.props.name)}.json`, JSON.stringify(report, null, 1));
    this.release();
  };

  private readonly release = () => this.setState({ pressed: false });
  private readonly held = {
    onPointerDown: () => this.setState({ pressed: true }),
    onPointerCancel: this.release,
    onPointerLeave: this.release,
  };

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    return (
      <div
        role="alert"
        className={`my-2 h-fit max-w-3xl border-2 border-fail bg-sheet px-3 py-2 text-body ${this.props.className ?? ""}`}
      >
        <b>{this.props.name} could not be drawn.</b>{" "}
        <span className="break-words">{error.message || error.name}.</span> The rest of the page
        works.
        <span className="mt-2 flex flex-wrap gap-3">
          <button
            type="button"
            className="plain-button min-h-8 max-md:min-h-11"
            {...this.held}
            onClick={() => this.setState({ error: null, pressed: false })}
          >
            Draw again
          </button>
          <button
            type="button"
            className="plain-button min-h-8 max-md:min-h-11"
            {...this.held}
            onClick={this.save}
          >
            Save fault report
          </button>
        </span>
        {this.props.instead}
      </div>
    );
  }
}

const slug = (name: string) => name.toLowerCase().replace(/[^a-z0-9]+/g, "-");
