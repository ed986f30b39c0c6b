// A shot's break-down beside its bench: recipes, plates, costs, cautions; read again when anything of the shot has changed.
import { answered, client, writeKey, type Schemas } from "../api/client";
import { Asking } from "./asking.svelte";
import { WayBack } from "./back.svelte";

export type Plan = Schemas["PlanOut"];

export class PlanState {
  plan = $state.raw<Plan | null>(null);
  readonly asking = new Asking();
  readonly back = new WayBack();
  #turn = 0;

  constructor(
    readonly shot: number,
    readonly changed: () => void,
  ) {}

  get writes() {
    return this.plan?.role === "supervisor";
  }
  get ticks() {
    return this.plan?.role === "supervisor" || this.plan?.role === "crew";
  }

  async read() {
    const turn = ++this.#turn;
    const found = await this.asking.run(() =>
      answered(client.GET("/api/shots/{shot_id}/plan", { params: { path: { shot_id: this.shot } } })),
    );
    if (found && turn === this.#turn) this.plan = found;
  }

  /** Do something that answers with the plan as it is then. */
  async #do(work: () => Promise<Plan>): Promise<boolean> {
    const found = await this.asking.run(work);
    if (!found) return false;
    this.#turn++;
    this.plan = found;
    this.changed();
    return true;
  }

  #path = () => ({ path: { shot_id: this.shot } });

  choose(body: Partial<Schemas["ChooseIn"]>) {
    return this.back.run(async () => {
      const before = this.plan?.recipes.map((one) => one.id) ?? [];
      const done = await this.#do(() =>
        answered(
          client.POST("/api/shots/{shot_id}/recipes", {
            params: this.#path(),
            headers: { "Idempotency-Key": writeKey() },
            body: { key: "", answers: {}, fill: true, ...body } as Schemas["ChooseIn"],
          }),
        ),
      );
      const made = this.plan?.recipes.find((one) => !before.includes(one.id));
      if (done && made) this.back.remember(`Choose ${made.title}`, () => this.#remove(made.id, true));
      return done;
    });
  }

  #remove(id: number, removed: boolean) {
    return this.#do(() =>
      answered(
        client.PATCH("/api/shots/{shot_id}/recipes/{recipe_id}", {
          params: { path: { shot_id: this.shot, recipe_id: id } },
          body: { removed },
        }),
      ),
    );
  }
  removeRecipe(id: number) {
    return this.back.run(async () => {
      const title = this.plan?.recipes.find((one) => one.id === id)?.title ?? "the recipe";
      if (await this.#remove(id, true)) this.back.remember(`Take back ${title}`, () => this.#remove(id, false));
    });
  }

  saveRecipe(title: string) {
    return this.#do(() =>
      answered(
        client.POST("/api/shots/{shot_id}/save-recipe", {
          params: this.#path(),
          headers: { "Idempotency-Key": writeKey() },
          body: { title },
        }),
      ),
    );
  }

  #cost(changes: Schemas["CostIn"]["changes"]) {
    return this.#do(() =>
      answered(client.PATCH("/api/shots/{shot_id}/costs", { params: this.#path(), body: { changes } })),
    );
  }
  cost(changes: Schemas["CostIn"]["changes"]) {
    return this.back.run(async () => {
      const costing = this.plan?.costing;
      const said = (name: string) =>
        costing?.said.includes(name) ? ((costing.job as Record<string, unknown>)[name] as number) : null;
      const before = Object.fromEntries(
        Object.keys(changes).map((name) => [name, name === "chosen" ? (costing?.chosen ?? "") : said(name)]),
      ) as Schemas["CostIn"]["changes"];
      const done = await this.#cost(changes);
      if (done) this.back.remember("What was said of the costs", () => this.#cost(before));
      return done;
    });
  }

  sign(caution: string, note: string, withdraw = false) {
    return this.#do(() =>
      answered(client.POST("/api/shots/{shot_id}/sign", { params: this.#path(), body: { caution, note, withdraw } })),
    );
  }
  cautions(keys: string[]) {
    return this.#do(() =>
      answered(client.PUT("/api/shots/{shot_id}/cautions", { params: this.#path(), body: { cautions: keys } })),
    );
  }
  tick(layer: number, text: string, done: boolean) {
    return this.#do(() =>
      answered(
        client.POST("/api/layers/{layer_id}/ticks", { params: { path: { layer_id: layer } }, body: { text, done } }),
      ),
    );
  }
  async ready(ready: boolean) {
    const done = await this.asking.run(() =>
      answered(
        client.PATCH("/api/shots/{shot_id}/line", {
          params: this.#path(),
          headers: { "Idempotency-Key": writeKey() },
          body: { changes: { ready }, seen: {} },
        }),
      ),
    );
    if (done) {
      await this.read();
      this.changed();
    }
  }
  async board(file: File) {
    const form = new FormData();
    form.append("file", file);
    const done = await this.asking.run(() =>
      answered(
        client.POST("/api/shots/{shot_id}/board", {
          params: this.#path(),
          body: form as never,
          bodySerializer: (body) => body as never,
        }),
      ),
    );
    if (done) {
      await this.read();
      this.changed();
    }
  }
}
