/** Switches of native screens, which the web has none of. */
export const initScreensFeatureFlags = () => undefined;
