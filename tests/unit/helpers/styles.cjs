/** Class names of a CSS module stand for themselves where no style is loaded. */
module.exports = new Proxy({}, { get: (_, name) => name });
