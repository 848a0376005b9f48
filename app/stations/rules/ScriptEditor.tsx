import { autocompletion, type CompletionContext } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap, indentWithTab } from "@codemirror/commands";
import { javascript, javascriptLanguage } from "@codemirror/lang-javascript";
import { bracketMatching, HighlightStyle, indentOnInput, syntaxHighlighting } from "@codemirror/language";
import { lintGutter, setDiagnostics } from "@codemirror/lint";
import { highlightSelectionMatches, search, searchKeymap } from "@codemirror/search";
import { EditorState } from "@codemirror/state";
import { drawSelection, EditorView, highlightActiveLine, keymap, lineNumbers } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { useEffect, useRef } from "react";
import type { RuleProblem } from "../../../core/rules";

interface ScriptEditorProps {
  readonly script: string;
  readonly problem: RuleProblem | null;
  readonly onChange: (script: string) => void;
}

const look = EditorView.theme({
  "&": { height: "100%", backgroundColor: "var(--sheet)", color: "var(--ink)", fontSize: "13px" },
  ".cm-content": { fontFamily: "var(--font-number)", caretColor: "var(--ink)", padding: "10px 0" },
  ".cm-gutters": {
    backgroundColor: "var(--ground)",
    color: "var(--ink-faint)",
    border: "none",
    fontFamily: "var(--font-number)",
  },
  ".cm-activeLine, .cm-activeLineGutter": { backgroundColor: "color-mix(in srgb, var(--well) 45%, transparent)" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-selectionBackground, &.cm-focused .cm-selectionBackground": { backgroundColor: "var(--tint-cobalt) !important" },
  "&.cm-focused": { outline: "none" },
  ".cm-tooltip": { backgroundColor: "var(--sheet)", border: "1px solid var(--rule-strong)", color: "var(--ink)" },
  ".cm-tooltip-autocomplete ul li[aria-selected]": { backgroundColor: "var(--tint-cobalt)", color: "var(--ink)" },
  ".cm-panels": { backgroundColor: "var(--ground)", color: "var(--ink)", borderBottom: "1px solid var(--rule)" },
  ".cm-panel.cm-search": { padding: "6px 10px", fontFamily: "var(--font)" },
  ".cm-panel.cm-search input, .cm-panel.cm-search .cm-textfield": {
    backgroundColor: "var(--well)",
    color: "var(--ink)",
    border: "1px solid transparent",
    borderRadius: "2px",
    fontFamily: "var(--font-number)",
  },
  ".cm-panel.cm-search button": {
    backgroundImage: "none",
    backgroundColor: "var(--sheet)",
    color: "var(--ink)",
    border: "1px solid var(--rule-strong)",
    borderRadius: "3px",
  },
  ".cm-searchMatch": { backgroundColor: "var(--tint-ochre)" },
  ".cm-searchMatch-selected": { backgroundColor: "var(--tint-leaf)" },
  ".cm-diagnostic": { fontFamily: "var(--font)" },
});

const colours = HighlightStyle.define([
  { tag: tags.comment, color: "var(--ink-faint)", fontStyle: "italic" },
  { tag: [tags.keyword, tags.controlKeyword], color: "var(--cobalt)", fontWeight: "600" },
  { tag: [tags.number, tags.bool], color: "var(--vermilion)" },
  { tag: tags.string, color: "var(--leaf)" },
  { tag: tags.function(tags.variableName), color: "var(--plum)" },
]);

const WORDS = [
  { label: "start", type: "function", info: "start(note): called when a key goes down" },
  { label: "end", type: "function", info: "end(note): called when a key goes up" },
  { label: "play", type: "function", info: "play({ key, velocity, delay, length }): adds a note" },
  { label: "random", type: "function", info: "random(low, high): a number from the seed" },
  { label: "note.key", type: "property", info: "MIDI key, 0 to 127" },
  { label: "note.velocity", type: "property", info: "1 to 127" },
  { label: "note.delay", type: "property", info: "seconds" },
  { label: "note.length", type: "property", info: "seconds; 0 ends with the key" },
  { label: "note.time", type: "property", info: "seconds since the engine began" },
];

const completions = javascriptLanguage.data.of({
  autocomplete: (context: CompletionContext) => {
    const word = context.matchBefore(/[\w.]+/);
    return word && (context.explicit || word.to - word.from > 1) ? { from: word.from, options: WORDS } : null;
  },
});

/** The script's editor; the engine's complaint stands at its line. */
export function ScriptEditor({ script, problem, onChange }: ScriptEditorProps) {
  const parent = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const report = useRef(onChange);
  report.current = onChange;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the editor is made once; what comes later is put into it below
  useEffect(() => {
    if (!parent.current) return;
    const editor = new EditorView({
      parent: parent.current,
      state: EditorState.create({
        doc: script,
        extensions: [
          lineNumbers(),
          drawSelection(),
          highlightActiveLine(),
          indentOnInput(),
          bracketMatching(),
          javascript(),
          completions,
          autocompletion(),
          lintGutter(),
          syntaxHighlighting(colours),
          look,
          EditorView.contentAttributes.of({ "aria-label": "Script" }),
          history(),
          search({ top: true }),
          highlightSelectionMatches(),
          keymap.of([...searchKeymap, ...historyKeymap, ...defaultKeymap, indentWithTab]),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) report.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = editor;
    return () => editor.destroy();
  }, []);
  useEffect(() => {
    const editor = view.current;
    if (!editor || editor.state.doc.toString() === script) return;
    editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: script } });
  }, [script]);
  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    const line = problem?.line ? editor.state.doc.line(Math.min(problem.line, editor.state.doc.lines)) : null;
    const diagnostics =
      problem && line ? [{ from: line.from, to: line.to, severity: "error" as const, message: problem.reason }] : [];
    editor.dispatch(setDiagnostics(editor.state, diagnostics));
  }, [problem]);
  return <div ref={parent} className="min-h-0 flex-1 overflow-hidden [&_.cm-scroller]:overflow-auto" />;
}
