import { configure } from '@testing-library/react';

// A busy machine is not a fault: what is waited for comes, or the test fails in the end.
configure({ asyncUtilTimeout: 20_000 });
