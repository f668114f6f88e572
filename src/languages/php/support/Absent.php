/** Stands for a field that is not there, where null stands for null. */
enum Absent
{
    case Value;
}
