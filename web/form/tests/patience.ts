import { configure } from '@testing-library/dom';

// On a busy machine what comes late is no fault; what does not come is.
configure({ asyncUtilTimeout: 15_000 });
