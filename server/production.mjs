// Before anything else is loaded: libraries choose by it, and no answer carries a stack.
process.env.NODE_ENV = 'production';
