/** The page's head is the document's own: nothing is put there by way of the router. */
export const HelmetProvider = ({ children }) => children;
export const Helmet = () => null;
