import { type Editor, EditorContent, useEditor, useEditorState } from "@tiptap/react";
import StarterKit from "@tiptap/starter-kit";
import { Bold, Heading, Italic, Link, List, ListOrdered, type LucideIcon, Quote, Unlink } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { Button } from "../ui/basics";
import { Input } from "../ui/inputs";
import { useMay } from "../ui/rights";
import { asText, type EditorProps } from "./base";

const IDLE = 2500;
const KIT = StarterKit.configure({
  heading: { levels: [4] },
  code: false,
  codeBlock: false,
  horizontalRule: false,
  link: { openOnClick: false, protocols: ["http", "https", "mailto", "tel"] },
});

type Tool = {
  name: string;
  keys?: string;
  Icon: LucideIcon;
  on: (editor: Editor) => boolean;
  act: (editor: Editor) => void;
};
const TOOLS: readonly Tool[] = [
  {
    name: "Bold",
    keys: "Ctrl B",
    Icon: Bold,
    on: (at) => at.isActive("bold"),
    act: (at) => at.chain().focus().toggleBold().run(),
  },
  {
    name: "Italic",
    keys: "Ctrl I",
    Icon: Italic,
    on: (at) => at.isActive("italic"),
    act: (at) => at.chain().focus().toggleItalic().run(),
  },
  {
    name: "Heading",
    Icon: Heading,
    on: (at) => at.isActive("heading"),
    act: (at) => at.chain().focus().toggleHeading({ level: 4 }).run(),
  },
  {
    name: "Points",
    Icon: List,
    on: (at) => at.isActive("bulletList"),
    act: (at) => at.chain().focus().toggleBulletList().run(),
  },
  {
    name: "Numbered points",
    Icon: ListOrdered,
    on: (at) => at.isActive("orderedList"),
    act: (at) => at.chain().focus().toggleOrderedList().run(),
  },
  {
    name: "Quote",
    Icon: Quote,
    on: (at) => at.isActive("blockquote"),
    act: (at) => at.chain().focus().toggleBlockquote().run(),
  },
];

/** Rich text as it will read, with its tools above; committed when left, or after a pause. The server cleans what it gets. */
export default function RichEditor({ id, at, wrong, onFill, onTyping }: EditorProps) {
  const typed = asText(at.value.typed);
  const committed = useRef(typed);
  const commit = useRef(onFill);
  commit.current = onFill;
  const [text, setText] = useState(typed);
  const may = useMay("edit");
  const editor = useEditor({
    editable: may,
    extensions: [KIT],
    content: typed,
    injectCSS: false,
    immediatelyRender: true,
    editorProps: {
      // Tab goes on to the next control, in lists too.
      handleDOMEvents: { keydown: (_view, event) => event.key === "Tab" },
      attributes: {
        id,
        role: "textbox",
        "aria-multiline": "true",
        "aria-labelledby": `${id}-label`,
        class: "rich-text scroll",
      },
    },
    onUpdate: ({ editor }) => {
      const next = editor.isEmpty ? "" : editor.getHTML();
      setText(next);
      onTyping(editor.getText());
    },
  });
  const latest = useRef(text);
  latest.current = text;
  const done = useCallback(() => {
    if (latest.current === committed.current) return;
    committed.current = latest.current;
    commit.current(latest.current || null);
  }, []);
  // What comes from outside, cleaned or undone, is taken unless something is being written that is not committed yet.
  useEffect(() => {
    if (editor.isDestroyed || typed === committed.current) return;
    if (latest.current !== committed.current || editor.isFocused) return;
    committed.current = typed;
    latest.current = typed;
    setText(typed);
    editor.commands.setContent(typed, { emitUpdate: false });
  }, [typed, editor]);
  useEffect(() => {
    if (text === committed.current) return;
    const timer = setTimeout(done, IDLE);
    return () => clearTimeout(timer);
  }, [text, done]);
  useEffect(() => () => done(), [done]);
  useEffect(() => {
    if (editor.isDestroyed) return;
    editor.setOptions({
      editorProps: {
        ...editor.options.editorProps,
        attributes: { ...(editor.options.editorProps.attributes as object), "aria-invalid": String(wrong) },
      },
    });
  }, [editor, wrong]);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only notices that the editor and its tools are left
    <div
      className={`rich-box ${wrong ? "wrong" : ""}`}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) done();
      }}
    >
      {may && <Tools editor={editor} />}
      <EditorContent editor={editor} />
    </div>
  );
}

function Tools({ editor }: { editor: Editor }) {
  const [linking, setLinking] = useState(false);
  const active = useEditorState({
    editor,
    selector: ({ editor }) => [...TOOLS.map((tool) => tool.on(editor)), editor.isActive("link")],
  });
  const linked = active[TOOLS.length] ?? false;
  return (
    <>
      <div role="toolbar" aria-label="How the text is set" className="flex flex-wrap gap-0.5 border-b border-line p-1">
        {TOOLS.map(({ name, keys, Icon, act }, index) => (
          <ToolButton key={name} name={name} keys={keys} on={active[index] ?? false} onPress={() => act(editor)}>
            <Icon size={14} aria-hidden="true" />
          </ToolButton>
        ))}
        <ToolButton name="Link" on={linked} onPress={() => setLinking(true)}>
          <Link size={14} aria-hidden="true" />
        </ToolButton>
        {linked && (
          <ToolButton
            name="Take the link off"
            on={false}
            onPress={() => editor.chain().focus().extendMarkRange("link").unsetLink().run()}
          >
            <Unlink size={14} aria-hidden="true" />
          </ToolButton>
        )}
      </div>
      {linking && <LinkLine editor={editor} onDone={() => setLinking(false)} />}
    </>
  );
}

/** Where the words that are chosen lead to. */
function LinkLine({ editor, onDone }: { editor: Editor; onDone: () => void }) {
  const [address, setAddress] = useState(String(editor.getAttributes("link").href ?? "https://"));
  const put = () => {
    const chain = editor.chain().focus().extendMarkRange("link");
    if (editor.state.selection.empty && !editor.isActive("link"))
      chain.insertContent({ type: "text", text: address, marks: [{ type: "link", attrs: { href: address } }] }).run();
    else chain.setLink({ href: address }).run();
    onDone();
  };
  return (
    <div className="flex items-center gap-2 border-b border-line p-1.5">
      <Input
        autoFocus
        className="input font-mono"
        aria-label="Address of the link"
        inputMode="url"
        value={address}
        onChange={(event) => setAddress(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter") put();
          if (event.key === "Escape") {
            event.stopPropagation();
            editor.commands.focus();
            onDone();
          }
        }}
      />
      <Button onClick={put}>Link it</Button>
    </div>
  );
}

type ToolButtonProps = { name: string; keys?: string; on: boolean; onPress: () => void; children: React.ReactNode };

function ToolButton({ name, keys, on, onPress, children }: ToolButtonProps) {
  return (
    <button
      type="button"
      className="grid h-6 w-7 place-items-center rounded text-ink-2 hover:bg-woad-tint aria-pressed:bg-woad aria-pressed:text-white"
      aria-label={name}
      aria-pressed={on}
      title={keys ? `${name}, ${keys}` : name}
      // The words chosen stay chosen.
      onMouseDown={(event) => event.preventDefault()}
      onClick={onPress}
    >
      {children}
    </button>
  );
}
