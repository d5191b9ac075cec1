import { mount } from 'svelte';
import '../app.css';
import Play from './Play.svelte';

mount(Play, { target: document.getElementById('app')! });
