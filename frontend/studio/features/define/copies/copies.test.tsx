import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { OwnWords } from "../../../kinds/OwnWords";
import { serve, show } from "../../../testing";

vi.mock("../../../kinds/RichBox", () => ({
  RichBox: ({ label, value, onFill }: { label: string; value: string; onFill: (html: string) => void }) => (
    <textarea aria-label={label} defaultValue={value} onBlur={(event) => onFill(event.target.value)} />
  ),
}));

const STANDING = { html: "<p>Cold water</p>", text: "Cold water", source: "the shared copy Care" };

describe("words that follow shared ones", () => {
  it("become its own by a tick, beginning from those, and follow them again without it", async () => {
    serve({});
    const put = vi.fn();
    const { unmount } = show(<OwnWords label="Care" standing={STANDING} own={null} differs={[]} onPut={put} />);
    expect(screen.getByText(/From the shared copy Care/)).toBeTruthy();
    fireEvent.click(screen.getByLabelText("words of its own"));
    expect(put).toHaveBeenLastCalledWith("<p>Cold water</p>");
    unmount();
    show(<OwnWords label="Care" standing={STANDING} own="<p>Warm</p>" differs={[]} onPut={put} />);
    fireEvent.click(screen.getByLabelText("words of its own"));
    await waitFor(() => expect(put).toHaveBeenLastCalledWith(null));
  });

  it("show what differs beside them", () => {
    serve({});
    const pieces = [
      { how: "gone", text: "Cold " },
      { how: "added", text: "Warm " },
      { how: "same", text: "water" },
    ];
    const { container } = show(
      <OwnWords label="Care" standing={STANDING} own="<p>Warm water</p>" differs={pieces} onPut={() => undefined} />,
    );
    expect(screen.getByText("What differs from the shared copy Care:")).toBeTruthy();
    expect(container.querySelector("del")?.textContent).toBe("instead of Cold ");
    expect(container.querySelector("ins")?.textContent).toBe("Warm ");
  });

  it("are written from nothing where there are no shared ones yet", async () => {
    serve({});
    const put = vi.fn();
    show(<OwnWords label="Care" standing={{ ...STANDING, html: "", text: "" }} own={null} differs={[]} onPut={put} />);
    fireEvent.click(screen.getByLabelText("words of its own"));
    expect(put).not.toHaveBeenCalled();
    fireEvent.blur(screen.getByLabelText("Care, own words"), { target: { value: "<p>Warm</p>" } });
    await waitFor(() => expect(put).toHaveBeenLastCalledWith("<p>Warm</p>"));
  });

  it("say so while nothing differs", () => {
    serve({});
    const same = [{ how: "same", text: "Cold water" }];
    show(<OwnWords label="Care" standing={STANDING} own={STANDING.html} differs={same} onPut={() => undefined} />);
    expect(screen.getByText("The same as the shared copy Care so far.")).toBeTruthy();
  });
});
