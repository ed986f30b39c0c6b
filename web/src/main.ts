import "./app.css";
import { mount } from "svelte";
import App from "./App.svelte";
import { installed } from "./lib/offline/installed.svelte";

installed.begin();
mount(App, { target: document.getElementById("app")! });
