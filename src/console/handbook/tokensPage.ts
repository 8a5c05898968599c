/** The page of tokens, in the place of a component's name in addresses: no component has one like it. */
export const tokensPage = ':tokens';
