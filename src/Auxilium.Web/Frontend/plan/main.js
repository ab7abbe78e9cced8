// @ts-check
