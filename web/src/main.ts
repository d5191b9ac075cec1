import { mount } from 'svelte';
import './app.css';
import App from './App.svelte';

const target = document.getElementById('app');
if (target === null) throw new Error('The page has no place for the application.');
mount(App, { target });
