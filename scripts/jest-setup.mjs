// Node would wait for what a channel to other tabs might still bring.
Reflect.deleteProperty(globalThis, "BroadcastChannel");
