import { Flex } from 'antd';
import { Link } from 'wouter';
import mark from './mark.svg';

/** Our name, and the way to the shelf. */
export const Brand = () => (
  <Link className="brand" href="/">
    <Flex align="center" gap={10}>
      <img src={mark} alt="" width={24} height={24} /> Keen Ripple
    </Flex>
  </Link>
);
