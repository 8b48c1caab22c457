package jamjar.server.estate;

/**
 * What is wrong in a file of instances.
 *
 * @param line from 1; 0 for the whole file
 * @param field the field at fault; empty for the whole line
 */
public record LineFault(int line, String field, String sentence) {}
