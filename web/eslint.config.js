import js from "@eslint/js";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** What a room of the pages may not reach for, as docs/architecture.md draws it. */
const room = (folder, regex, message) => ({ files: [`src/${folder}/**/*.{ts,tsx}`], rules: { "no-restricted-imports": ["error", { patterns: [{ regex, message }] }] } });

export default tseslint.config(
  { ignores: ["src/api/schema.gen.d.ts", "node_modules"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  reactHooks.configs.flat["recommended-latest"],
  {
    rules: {
      "no-restricted-syntax": [
        "error",
        { selector: "JSXOpeningElement[name.name=/^(button|select|textarea|table|dialog)$/]", message: "The controls are MUI's, themed: see src/ui." },
        { selector: "CallExpression[callee.property.name='invalidateQueries'][arguments.length=0]", message: "Say what has changed: useChanged in src/api/queries.ts." },
      ],
    },
  },
  room("api", "^\\.\\./", "api knows the server only."),
  room("ui", "/(stages|shop|outbox|drawing)/", "ui is controls: no trade, no stage."),
  room("drawing", "/(stages|shop|outbox|ui)/|/api/queries$", "drawing draws what it is given."),
  room("outbox", "/(stages|shop|drawing)/", "the outbox sends, and shows what it has to ask."),
  room("stages", "^\\.\\./(?!shared/|\\.\\./)", "A stage never imports another: put what both need into stages/shared."),
  room("shop", "/stages/", "The pages of the shop stand beside the stages."),
);
