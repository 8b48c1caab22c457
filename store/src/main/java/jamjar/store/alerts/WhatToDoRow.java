package jamjar.store.alerts;

/**
 * What a person is to do.
 *
 * @param reach limit, instance or group
 * @param reachOf the number of the limit or the instance, or the name of the group
 * @param words a text, or a link
 */
public record WhatToDoRow(String reach, String reachOf, String words) {}
