/** Elements that show what an app has to say: without them nobody sees a toast. */

/** True for the name of a component that shows messages. */
export const showsMessages = (name: string): boolean => /toast|sonner|notif|snack/i.test(name);
